export { HistoryRoom } from "./HistoryRoom";
