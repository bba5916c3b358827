export { CLIPPING_TYPE } from "./Rack";
export { SidePanel } from "./SidePanel";
