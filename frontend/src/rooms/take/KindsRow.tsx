import type { ReactNode } from "react";
import { NumberField } from "../../base/NumberField";
import { useKeyOf } from "../../api/keys";
import { setOptions, useOptions } from "../../api/options";
import type { KindName } from "../../base/state";
import { STEP } from "../../base/zoom";
import type { Looking } from "./useLook";

export const KINDS: { kind: KindName; name: string }[] = [
  { kind: "region", name: "Region" },
  { kind: "window", name: "Window" },
  { kind: "pane", name: "Pane" },
  { kind: "freehand", name: "Freehand" },
  { kind: "screen", name: "Screen" },
  { kind: "long-page", name: "Long page" },
];

interface Props {
  kind: KindName;
  frozen: boolean;
  /** Null while nothing is frozen. */
  looking: Looking | null;
  counting: number | null;
  /** Whether what is or will be frozen carries the pointer. */
  hasPointer: boolean;
  /** Why this source has no pointer layer. */
  noPointer: string;
  onKind: (kind: KindName) => void;
  onFreeze: () => void;
  onCountDown: () => void;
  onStop: () => void;
  onLastArea: () => void;
  onLive: () => void;
}

/** Kinds of cut in a row on the mat's edge, the delay, the pointer, and the way between live and frozen. */
export function KindsRow(props: Props) {
  const { kind, frozen, looking, counting, hasPointer, noPointer } = props;
  const { onKind, onFreeze, onCountDown, onStop, onLastArea, onLive } = props;
  const options = useOptions();
  return (
    <div className="take-kinds">
      <div className="kinds" role="group" aria-label="Kind of cut">
        {KINDS.map((each) => (
          <KindButton key={each.kind} {...each} chosen={kind === each.kind} onKind={onKind} />
        ))}
      </div>
      <div className="take-ways">
        {looking && counting === null && <LookSteps looking={looking} />}
        {counting !== null ? (
          <>
            <span className="counting" role="timer" aria-live="polite">
              In {counting} s
            </span>
            <OnMat name="Stop" action="leave" onClick={onStop} />
          </>
        ) : (
          !frozen && (
            <span className="delay">
              <OnMat name="Freeze in" action="count-down" onClick={onCountDown} />
              <NumberField
                label="Delay in seconds"
                value={options?.delay_seconds}
                onCommit={(seconds) => {
                  setOptions({ delay_seconds: Math.min(Math.max(seconds, 1), 120) });
                }}
              />
              s
            </span>
          )
        )}
        <OnMat
          name={`Pointer: ${hasPointer && options?.pointer ? "shown" : "hidden"}`}
          action="pointer"
          disabled={!hasPointer}
          title={hasPointer ? "Whether the mouse pointer is in the picture; it can be changed later" : noPointer}
          onClick={() => {
            setOptions({ pointer: !options?.pointer });
          }}
        />
        <OnMat name="Last area again" action="last-area" onClick={onLastArea} />
        {frozen ? (
          <OnMat name="Back to live" action="leave" onClick={onLive} />
        ) : (
          <OnMat name="Freeze" action="freeze" main onClick={onFreeze} />
        )}
      </div>
    </div>
  );
}

/** How large the frozen screen is seen, in screen pixels. */
function LookSteps({ looking }: { looking: Looking }) {
  const percent = Math.round(looking.scale * 100 * (window.devicePixelRatio || 1));
  return (
    <span className="look-steps" role="group" aria-label="How large the screen is seen">
      <button
        type="button"
        aria-label="Smaller"
        disabled={looking.isWhole}
        onClick={() => {
          looking.zoom(1 / STEP);
        }}
      >
        −
      </button>
      <button type="button" title="The whole screen" disabled={looking.isWhole} onClick={looking.toWhole}>
        {percent} %
      </button>
      <button
        type="button"
        aria-label="Larger"
        onClick={() => {
          looking.zoom(STEP);
        }}
      >
        +
      </button>
    </span>
  );
}

function KindButton({
  kind,
  name,
  chosen,
  onKind,
}: {
  kind: KindName;
  name: string;
  chosen: boolean;
  onKind: (kind: KindName) => void;
}) {
  const key = useKeyOf(`kind-${kind}`);
  return (
    <button
      type="button"
      className="kind"
      aria-pressed={chosen}
      onClick={() => {
        onKind(kind);
      }}
    >
      {name}
      {key !== null && <sup aria-hidden="true">{key}</sup>}
    </button>
  );
}

interface OnMatProps {
  name: ReactNode;
  action: string;
  main?: boolean;
  disabled?: boolean;
  title?: string;
  onClick: () => void;
}

function OnMat({ name, action, main = false, disabled = false, title, onClick }: OnMatProps) {
  const key = useKeyOf(action);
  return (
    <button
      type="button"
      className={`on-mat ${main ? "on-mat-main" : ""}`}
      disabled={disabled}
      title={title}
      onClick={onClick}
    >
      {name}
      {key !== null && !disabled && <kbd> {key}</kbd>}
    </button>
  );
}
