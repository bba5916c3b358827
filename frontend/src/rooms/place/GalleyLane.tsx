import { EMU_PER_MM } from "../../base/units";
import { useEffect, useMemo, useRef } from "react";
import { useOutline } from "../../api/bench";
import type { Destination, Placement } from "../../api/client";
import { mm } from "../../base/format";
import { BlockView, Spots } from "./Blocks";
import { flows } from "./blocks";
import { GridLane } from "./grid/GridLane";
import { GalleyContext, toPx } from "./GalleyContext";
import { useGalleyState } from "./useGalleyState";

const LANE_PX = 292;
const MOST_PX_PER_MM = 4;
const BLOCKS_AROUND = 8;

interface LaneProps {
  destination: Destination;
  placement: Placement | null;
}

/** What is beside the mat: the text or the cells round the picture, or round the chosen place. */
export function GalleyLane(props: LaneProps) {
  return props.destination.view === "grid" ? <GridLane {...props} /> : <TextLane {...props} />;
}

/** One lane of the galley. */
function TextLane({ destination, placement }: LaneProps) {
  const spotId = placement?.spot ?? destination.spot?.id ?? null;
  const known = useOutline(destination.id, destination.version).data;
  const section = known?.sections[known.spots[spotId ?? ""]?.section ?? 0];
  const laneEmu = Math.min(...(section?.columns_emu ?? [EMU_PER_MM * 160]));
  const placeEmu = placement?.place_width_emu ?? Math.min(...(destination.spot?.widths_emu ?? [laneEmu]));
  const pxPerMm = Math.min(MOST_PX_PER_MM, LANE_PX / (laneEmu / EMU_PER_MM));
  const galley = useGalleyState(destination, pxPerMm, false);
  const body = useRef<HTMLDivElement>(null);
  const outline = galley?.state.outline;
  const shown = useMemo(() => {
    if (!outline) return null;
    const block = spotId?.match(/^[bh]\.\d+/)?.[0] ?? "b.1";
    const flow = flows(outline).find(
      (each) => each.blocks.some((b) => b.id === block) || each.spots.includes(spotId ?? ""),
    );
    if (!flow) {
      const [first] = flows(outline);
      return first ? { spots: first.spots, blocks: first.blocks.slice(0, BLOCKS_AROUND) } : null;
    }
    const at = Math.max(
      flow.blocks.findIndex((each) => each.id === block),
      0,
    );
    const from = Math.max(at - BLOCKS_AROUND, 0);
    return { spots: from === 0 ? flow.spots : [], blocks: flow.blocks.slice(from, at + BLOCKS_AROUND) };
  }, [outline, spotId]);
  useEffect(() => {
    const target =
      body.current?.querySelector(`[data-placement="${placement?.id ?? ""}"]`) ??
      body.current?.querySelector(`[data-spot="${CSS.escape(spotId ?? "")}"]`);
    target?.scrollIntoView({ block: "center" });
  }, [placement?.id, spotId, shown]);
  if (!galley || !shown) return null;
  return (
    <>
      <div className="lane-head">
        <h3>Galley</h3>
        <span>{spotId ? `place of ${mm(placeEmu)} mm` : "no place chosen"}</span>
      </div>
      <GalleyContext value={galley.state}>
        <div className="lane-ground" ref={body}>
          <div className="lane" style={{ width: toPx(laneEmu, pxPerMm) + 28, "--mm": `${pxPerMm.toString()}px` }}>
            <Spots ids={shown.spots} />
            {shown.blocks.map((block) => (
              <BlockView key={block.id} block={block} />
            ))}
          </div>
        </div>
      </GalleyContext>
    </>
  );
}
