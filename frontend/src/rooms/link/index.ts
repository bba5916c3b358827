export { LinkButton } from "./LinkButton";
export { LinkList } from "./LinkList";
