export { keepHeld } from "./actions";
export { TakeRoom } from "./TakeRoom";
export { lastAreaAgain, pickWindow, toLive } from "./actions";
export { screenTargets } from "./picking";
export { scrollThrough } from "./longpage";
export { startSharing } from "./share";
export { handle, useLive, useSources } from "./useDesktop";
