export { PlaceRoom } from "./PlaceRoom";
export { GalleyLane } from "./GalleyLane";
