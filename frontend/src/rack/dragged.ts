/** The type under which a slip that is dragged carries its clipping's id. */
export const CLIPPING_TYPE = "application/x-tijera-clipping";
