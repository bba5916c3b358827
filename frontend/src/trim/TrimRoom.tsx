import Button from "@mui/material/Button";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { refresh, showError, useInHand, useDestination } from "../api/bench";
import { api, must, type Clipping, type Destination, type Placement, type RectWire } from "../api/client";
import { measure, type Measures } from "../app/fit";
import { mm, size, weightOf } from "../app/format";
import { onButton, useKeys } from "../app/keys";
import { NumberField } from "../app/NumberField";
import { copyClipping, saveClipping } from "../app/out";
import { say, useBenchState } from "../app/state";
import { type Area, resized, sameArea, within } from "../area/geometry";
import { GalleyLane } from "../place";
import { Mat, type Zoom } from "./Mat";
import { showPointer } from "./pointer";

/** The clipping on the mat, at the size at which it stands in its destination. */
export function TrimRoom() {
  const { id, clipping } = useInHand();
  const destination = useDestination();
  if (!clipping && id !== null) return <main className="room-body mat-empty" aria-busy="true" />;
  if (!clipping) {
    return (
      <main className="room-body mat-empty">
        <h2 className="title">Nothing lies on the mat</h2>
        <p>
          <Link to="/take" className="choice-light">
            Take a clipping
          </Link>{" "}
          of the practice desk, paste a picture with Ctrl + V, or drop a file here.
        </p>
      </main>
    );
  }
  return <TrimClipping key={clipping.id} clipping={clipping} destination={destination} />;
}

function TrimClipping({ clipping, destination }: { clipping: Clipping; destination: Destination | null }) {
  const [draft, setDraft] = useState<Area | null>(null);
  const [live, setLive] = useState<Area | null>(null);
  const [zoom, setZoom] = useState<Zoom>("fit");
  const galleyOpen = useBenchState((state) => state.galleyOpen);
  const set = useBenchState((state) => state.set);
  const crop = draft ?? clipping.crop;
  const changed = !sameArea(crop, clipping.crop);
  const bounds = clipping.area;
  const placement = usePlacementInHand(clipping, destination);
  const measured = measuresOf(live ?? crop, clipping, destination, placement);

  const save = async (to: RectWire) => {
    try {
      await api.PUT("/api/v1/clippings/{clipping}/crop", { params: { path: { clipping: clipping.id } }, body: to });
      await refresh();
    } catch (error) {
      showError(error);
    }
    setDraft(null);
    setLive(null);
  };
  const change = (next: Area) => {
    setDraft(within(next, bounds));
    setLive(null);
  };
  const wholeArea = { x: 0, y: 0, width: bounds.width, height: bounds.height };

  useKeys({
    "confirm-crop": (event) => {
      if (changed && !onButton(event)) void save(crop);
    },
    leave: () => {
      setDraft(null);
      setLive(null);
    },
    "zoom-in": () => {
      setZoom((now) => zoomed(now, 1.25));
    },
    "zoom-out": () => {
      setZoom((now) => zoomed(now, 0.8));
    },
    "trim-pointer": () => {
      if (clipping.has_pointer) void showPointer(clipping, clipping.pointer === null);
      else say("This clipping came without a pointer.");
    },
    fit: () => {
      setZoom("fit");
    },
    "screen-pixels": () => {
      setZoom("pixels");
    },
  });

  return (
    <main className="room-body trim">
      <div className="tool-line">
        <span className="tool-name">Crop</span>
        <NumberField
          label="Width of the crop in pixels"
          value={crop.width}
          onCommit={(v) => {
            change(resized(crop, v, crop.height, bounds));
          }}
        />
        <span aria-hidden="true">×</span>
        <NumberField
          label="Height of the crop in pixels"
          value={crop.height}
          onCommit={(v) => {
            change(resized(crop, crop.width, v, bounds));
          }}
        />
        <span>px at</span>
        <NumberField
          label="Left edge of the crop"
          value={crop.x}
          onCommit={(v) => {
            change({ ...crop, x: v });
          }}
        />
        <NumberField
          label="Top edge of the crop"
          value={crop.y}
          onCommit={(v) => {
            change({ ...crop, y: v });
          }}
        />
        {changed ? (
          <>
            <Button variant="contained" onClick={() => void save(crop)}>
              Crop it <kbd>Enter</kbd>
            </Button>
            <Button
              variant="text"
              onClick={() => {
                setDraft(null);
                setLive(null);
              }}
            >
              Leave it <kbd>Esc</kbd>
            </Button>
          </>
        ) : (
          !sameArea(clipping.crop, wholeArea) && (
            <Button variant="text" onClick={() => void save(wholeArea)}>
              Show all of it
            </Button>
          )
        )}
        <span className="tool-end">
          {clipping.has_pointer && (
            <Button
              variant="text"
              title="The mouse pointer lies on the picture as a layer of its own"
              onClick={() => void showPointer(clipping, clipping.pointer === null)}
            >
              Pointer: {clipping.pointer ? "shown" : "hidden"}
            </Button>
          )}
          <Button variant="text" onClick={() => void copyClipping(clipping)}>
            Copy
          </Button>
          <Button variant="text" onClick={() => void saveClipping(clipping, "png")}>
            Save PNG
          </Button>
          <Button variant="text" onClick={() => void saveClipping(clipping, "jpeg")}>
            Save JPEG
          </Button>
          {destination && (
            <Button
              variant="text"
              className="narrow-only"
              onClick={() => {
                set({ galleyOpen: !galleyOpen });
              }}
            >
              Galley
            </Button>
          )}
        </span>
      </div>
      <div className="trim-middle">
        <div className="trim-table">
          <Mat
            clipping={clipping}
            crop={crop}
            mmPerPx={measured.widthEmu / 36_000 / (live ?? crop).width}
            zoom={zoom}
            onLive={setLive}
            onSettled={setDraft}
          />
          <div className="mat-foot">
            <MeasuresBar clipping={clipping} area={live ?? crop} measures={measured} placement={placement} />
            <div className="mat-view" role="group" aria-label="View">
              View:
              {(["fit", "placed", "pixels"] as const).map((name) => (
                <button
                  key={name}
                  type="button"
                  aria-pressed={zoom === name}
                  onClick={() => {
                    setZoom(name);
                  }}
                >
                  {{ fit: "fit", placed: "in the document", pixels: "screen pixels" }[name]}
                </button>
              ))}
              <button
                type="button"
                aria-label="Smaller"
                onClick={() => {
                  setZoom((now) => zoomed(now, 0.8));
                }}
              >
                −
              </button>
              <button
                type="button"
                aria-label="Larger"
                onClick={() => {
                  setZoom((now) => zoomed(now, 1.25));
                }}
              >
                +
              </button>
            </div>
          </div>
        </div>
        {destination && (
          <aside className={`trim-galley ${galleyOpen ? "trim-galley-open" : ""}`} aria-label="Galley">
            <GalleyLane destination={destination} placement={placement} />
          </aside>
        )}
      </div>
    </main>
  );
}

function zoomed(now: Zoom, by: number): Zoom {
  const factor = typeof now === "number" ? now : 1;
  return Math.min(Math.max(factor * by, 0.1), 16);
}

/** The placement that the mat shows: the chosen one of this clipping, else its first. */
function usePlacementInHand(clipping: Clipping, destination: Destination | null): Placement | null {
  const chosen = useBenchState((state) => state.placement);
  const own = destination?.placements.filter((each) => each.clipping === clipping.id) ?? [];
  return own.find((each) => each.id === chosen) ?? own[0] ?? null;
}

/** What a crop becomes: in its placement, in the chosen place, or at natural size. */
function measuresOf(
  area: Area,
  clipping: Clipping,
  destination: Destination | null,
  placement: Placement | null,
): Measures {
  const spot = destination?.spot ?? null;
  if (placement) {
    const rule = placement.bound_by === "given" ? placement.width_emu : "fit";
    const place = { widthEmu: placement.place_width_emu, heightEmu: placement.spot_height_emu };
    return measure(area.width, area.height, clipping.scale_factor, place, rule);
  }
  const place = spot ? { widthEmu: Math.min(...spot.widths_emu), heightEmu: spot.height_emu } : null;
  return measure(area.width, area.height, clipping.scale_factor, place);
}

interface BarProps {
  clipping: Clipping;
  area: Area;
  measures: Measures;
  placement: Placement | null;
}

function MeasuresBar({ clipping, area, measures, placement }: BarProps) {
  const weight = useQuery({
    queryKey: ["clipping weight", clipping.id, clipping.version, placement?.version],
    staleTime: Infinity,
    queryFn: async () =>
      must(
        await api.GET("/api/v1/clippings/{clipping}/weight", {
          params: { path: { clipping: clipping.id }, query: placement ? { placement: placement.id } : {} },
        }),
      ).bytes,
  }).data;
  const facts: [string, string][] = [
    ["Clipping", `${size(area.width, area.height)} px`],
    [placement ? "In the document" : "Would become", `${mm(measures.widthEmu)} × ${mm(measures.heightEmu)} mm`],
    ["Sharpness", `${Math.round(measures.ppi).toString()} ppi`],
    ["Weighs", weight === undefined ? "…" : weightOf(weight)],
  ];
  return (
    <dl className="measures">
      {facts.map(([name, value]) => (
        <div key={name}>
          <dt>{name}</dt>
          <dd>{value}</dd>
        </div>
      ))}
    </dl>
  );
}
