export { WeightRail } from "./WeightRail";
