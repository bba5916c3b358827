/** The type under which a slip that is dragged carries its clipping's id. */
export const CLIPPING_TYPE = "application/x-tijera-clipping";
/** The same for a picture that stands in a place already and is moved to another. */
export const PLACEMENT_TYPE = "application/x-tijera-placement";

/** Whether what is dragged comes from within: a slip, or a picture that is moved. */
export function isOwnDrag(event: { dataTransfer: DataTransfer | null }): boolean {
  return event.dataTransfer?.types.some((type) => type === CLIPPING_TYPE || type === PLACEMENT_TYPE) === true;
}
