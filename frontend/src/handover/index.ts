export { HandOverRoom } from "./HandOverRoom";
