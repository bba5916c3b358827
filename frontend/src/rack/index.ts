export { SidePanel } from "./SidePanel";
