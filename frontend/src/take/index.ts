export { TakeRoom } from "./TakeRoom";
export { useDesk } from "./useDesk";
