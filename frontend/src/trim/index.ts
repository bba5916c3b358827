export { TrimRoom } from "./TrimRoom";
