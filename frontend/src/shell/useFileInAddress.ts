import { useEffect, useRef } from "react";
import { NavigationType, useLocation, useNavigationType, useSearchParams } from "react-router";
import { refresh } from "../api/bench";
import { showFile, useBenchState } from "../base/state";

const NAME = "file";

/** The file of this window stands in its address: another window may show another one, and each keeps its own. */
export function useFileInAddress(): void {
  const file = useBenchState((state) => state.file);
  const [search, setSearch] = useSearchParams();
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
    setSearch(
      (before) => {
        if (file === null) before.delete(NAME);
        else before.set(NAME, file);
        return before;
      },
      { replace: true },
    );
  }, [file, named, key, way, setSearch]);
}
