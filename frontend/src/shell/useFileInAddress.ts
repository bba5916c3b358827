import { useEffect, useRef } from "react";
import { NavigationType, useLocation, useNavigate, useNavigationType, useSearchParams } from "react-router";
import { refresh } from "../api/bench";
import { showFile, useBenchState } from "../base/state";

const NAME = "file";

/** The file of this window stands in its address: another window may show another one, and each keeps its own. */
export function useFileInAddress(): void {
  const file = useBenchState((state) => state.file);
  const [search] = useSearchParams();
  const navigate = useNavigate();
  const { key } = useLocation();
  const way = useNavigationType();
  const seen = useRef(key);
  const named = search.get(NAME);
  useEffect(() => {
    const moved = seen.current !== key;
    seen.current = key;
    if (file === undefined || named === file) return;
    if (moved && way === NavigationType.Pop && named !== null) {
      // Gone back to where another file was shown.
      showFile(named);
      void refresh();
      return;
    }
    // Of the address as it is by now, not as it was drawn: somebody may be on the way to the next room.
    const address = new URL(window.location.href);
    if (file === null) address.searchParams.delete(NAME);
    else address.searchParams.set(NAME, file);
    void navigate(`${address.pathname}${address.search}${address.hash}`, { replace: true });
  }, [file, named, key, way, navigate]);
}
