export { CLIPPING_TYPE } from "./dragged";
export { SidePanel } from "./SidePanel";
