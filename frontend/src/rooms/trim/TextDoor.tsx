import { useEffect, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { chooseSpot, movePlacement, refresh, showError } from "../../api/bench";
import { api, type Clipping, type Destination, type Placement } from "../../api/client";
import { type Door, type Change, type Sheet, type Where, useSmallestText } from "../../api/sheet";
import { mm, whole } from "../../base/format";
import { FootHint } from "../FootHint";
import { saveClipping } from "../../api/out";
import { addressOf } from "../../base/state";

interface Props {
  clipping: Clipping;
  sheet: Sheet | undefined;
  where: Where;
  shown: boolean;
  destination: Destination | null;
  placement: Placement | null;
  change: (change: Change) => Promise<Sheet | null>;
}

const pt = (value: number) => value.toFixed(1);

/** The smallest text on the picture as it stands; a weak one is a door to what would help. */
export function TextDoor({ clipping, sheet, where, shown, destination, placement, change }: Props) {
  const found = useSmallestText(clipping.id, sheet?.version, where, shown);
  const [isOpen, setOpen] = useState(false);
  const navigate = useNavigate();
  if (!found) return <>…</>;
  if (found.text_pt === null) return <>no text found</>;
  const words = `${pt(found.text_pt)} pt`;
  if (found.grade === "fine") return <>{words}</>;
  const open = (door: Door) => {
    setOpen(false);
    if (door.name === "crop" && door.crop) void change({ do: "crop", crop: door.crop });
    if (door.name === "natural" && placement) void resize(placement, "fit");
    if (door.name === "file") void saveClipping(clipping, "png");
    const spot = door.spot;
    if (door.name === "place" && spot && destination)
      void moveTo(destination, spot, placement).then(() => navigate(addressOf("/place")));
  };
  return (
    <>
      <button
        type="button"
        className={`text-door text-door-${found.grade}`}
        aria-expanded={isOpen}
        onClick={() => {
          setOpen(!isOpen);
        }}
      >
        {words}
      </button>
      {isOpen && (
        <Doors
          says={`Smallest text: about ${words}. ${found.grade === "weak" ? "Hard to read on paper." : "Small on paper."}`}
          doors={found.doors}
          onOpen={open}
          onLeave={() => {
            setOpen(false);
          }}
        />
      )}
    </>
  );
}

interface DoorsProps {
  says: string;
  doors: readonly Door[];
  onOpen: (door: Door) => void;
  onLeave: () => void;
}

/** What helps, in the line at the foot: neither the crop nor a tool that it speaks of lies under it. */
function Doors({ says, doors, onOpen, onLeave }: DoorsProps) {
  const first = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    first.current?.focus();
  }, []);
  return (
    <FootHint>
      <div
        className="doors"
        role="toolbar"
        aria-label="What helps against small text"
        onKeyDown={(event) => {
          if (event.key !== "Escape") return;
          event.stopPropagation();
          onLeave();
        }}
      >
        <span>{says}</span>
        {doors.map((door, index) => (
          <button
            key={door.name}
            ref={index === 0 ? first : null}
            type="button"
            className="on-mat"
            onClick={() => {
              onOpen(door);
            }}
          >
            {doorWords(door)}: {pt(door.text_pt)} pt
          </button>
        ))}
        <button ref={doors.length === 0 ? first : null} type="button" className="on-mat" onClick={onLeave}>
          Leave it
        </button>
      </div>
    </FootHint>
  );
}

function doorWords(door: Door): string {
  if (door.name === "crop") return `Crop to ${whole(door.crop?.width ?? 0)} px`;
  if (door.name === "place") return `Where ${mm(door.width_emu ?? 0)} mm are free`;
  if (door.name === "natural") return `As wide as the place, ${mm(door.width_emu ?? 0)} mm`;
  return "As a file of its own, natural size";
}

async function resize(placement: Placement, width: string): Promise<void> {
  await api
    .PATCH("/api/v1/placements/{placement}", { params: { path: { placement: placement.id } }, body: { width } })
    .catch(showError);
  await refresh();
}

/** Go to a wider place: what stands in the narrow one moves there. */
async function moveTo(destination: Destination, spot: string, placement: Placement | null) {
  try {
    if (placement) {
      await movePlacement(placement.id, spot);
    } else {
      const outline = await api.GET("/api/v1/destinations/{destination}/outline", {
        params: { path: { destination: destination.id } },
      });
      const found = outline.data?.spots[spot];
      if (found) await chooseSpot(destination.id, found);
    }
  } catch (error) {
    showError(error);
  }
}
