export { CLIPPING_TYPE, PLACEMENT_TYPE, isOwnDrag } from "./dragged";
export { SidePanel } from "./SidePanel";
