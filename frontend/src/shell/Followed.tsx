import { useDestination } from "../api/bench";
import { takeOver, useOnDisk, writeBack } from "../api/versions";

/** A file of this computer that is followed: a newer version is offered, and writing it back. */
export function Followed() {
  const destination = useDestination();
  const state = useOnDisk(destination?.id, destination?.follows ?? null).data?.state;
  if (!destination?.follows || !state) return null;
  const { id, name, follows } = destination;
  return (
    <span className="followed" title={follows} role="status">
      {state === "changed" && (
        <>
          changed on this computer ·{" "}
          <button type="button" className="choice" onClick={() => void takeOver(id, null)}>
            take over the newer version
          </button>
        </>
      )}
      {state === "gone" && "not there any more on this computer"}
      {state === "same" && destination.placements.length > 0 && (
        <button type="button" className="choice" onClick={() => void writeBack(id, name)}>
          write it back to the file
        </button>
      )}
    </span>
  );
}
