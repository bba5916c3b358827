export { PostboxRoom } from "./PostboxRoom";
