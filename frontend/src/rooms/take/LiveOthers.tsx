import Button from "@mui/material/Button";
import { useEffect, useRef, useState } from "react";
import type { LiveView } from "../../api/client";
import type { Point } from "../../area/AreaEditor";
import type { Area } from "../../area/geometry";
import { useBenchState } from "../../base/state";
import { holdAt } from "./actions";
import { pressLive } from "./liveDrag";
import { startSharing, stopSharing, useShare } from "./share";

/** This computer's screen, looked at once a second. */
export function LivePicture({
  screen,
  view,
  scale,
  onDrag,
}: {
  screen: LiveView;
  view: Area;
  scale: number;
  onDrag: () => void;
}) {
  const [look, setLook] = useState(0);
  useEffect(() => {
    const timer = setInterval(() => {
      setLook((now) => now + 1);
    }, 1_000);
    return () => {
      clearInterval(timer);
    };
  }, []);
  return (
    <div className="screen" style={{ width: view.width * scale, height: view.height * scale }}>
      <img
        className="live-picture"
        src={`/api/v1/sources/screen/ground.png?v=${look.toString()}`}
        alt="This computer's screen, live"
        draggable={false}
        onPointerDown={(event) => {
          pressLive(event.nativeEvent, event.currentTarget, { onDrag, onClick: holdShare });
        }}
        style={{
          width: screen.width * scale,
          height: screen.height * scale,
          transform: `translate(${(-view.x * scale).toFixed(1)}px, ${(-view.y * scale).toFixed(1)}px)`,
        }}
      />
    </div>
  );
}

/** What was clicked is held, or the screen is frozen where nothing is known of its windows. */
function holdShare(at: Point): void {
  const { kind } = useBenchState.getState();
  void holdAt(kind, (frame) => ({ x: at.x * frame.width, y: at.y * frame.height }));
}

/** The shared screen as it plays, or the way to share one. */
export function LiveVideo({ onControl, onDrag }: { onControl: (() => void) | null; onDrag: () => void }) {
  const { status, video, title } = useShare();
  const place = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (video) place.current?.replaceChildren(video);
  }, [video]);
  if (status !== "live") {
    return (
      <div className="share-ask">
        <h2 className="title">
          {status === "asking" ? "The browser asks which screen…" : "Share a screen or a window"}
        </h2>
        <p>
          The browser asks once; the picture then stays here until you stop it. Shared video is not exact in its
          colours; a pasted picture is.
        </p>
        <Button variant="contained" disabled={status === "asking"} onClick={() => void startSharing()}>
          Choose what to share…
        </Button>
      </div>
    );
  }
  return (
    <div className="share-live">
      <div
        ref={place}
        className="share-video"
        role="img"
        aria-label={`Shared, live: ${title || "a screen"}`}
        onPointerDown={(event) => {
          if (video) pressLive(event.nativeEvent, video, { onDrag, onClick: holdShare });
        }}
      />
      <div className="share-foot">
        <span>Sharing {title || "a screen"}. Freeze here, or after a delay while you are elsewhere.</span>
        {onControl && (
          <button type="button" className="on-mat" onClick={onControl}>
            Small control
          </button>
        )}
        <button type="button" className="on-mat" onClick={stopSharing}>
          Stop sharing
        </button>
      </div>
    </div>
  );
}
