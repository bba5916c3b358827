export { AnewRoom } from "./AnewRoom";
