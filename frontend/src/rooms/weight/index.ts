export { propose } from "./fitting";
export { WeightRail } from "./WeightRail";
