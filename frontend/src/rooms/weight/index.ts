export { makeItFit, propose } from "./fitting";
export { WeightRail } from "./WeightRail";
