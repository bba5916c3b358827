import { type FocusEvent, type ReactNode, useEffect, useRef, useState } from "react";

/** The height of a line above a working surface; as in styles/rooms.css. */
const LINE_PX = 43;

/** A line of one height, whatever it says: what doesn't fit lies under *More* and opens over what is below. */
export function OneLine({ children }: { children: ReactNode }) {
  const box = useRef<HTMLDivElement>(null);
  const [more, setMore] = useState(false);
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const node = box.current;
    if (!node) return undefined;
    const fit = () => {
      setMore(node.scrollHeight > LINE_PX + 4);
    };
    fit();
    const observer = new ResizeObserver(fit);
    observer.observe(node);
    return () => {
      observer.disconnect();
    };
  }, []);
  /** Keys that come to something under *More* open it. */
  const onFocus = (event: FocusEvent<HTMLElement>) => {
    const top = event.target.getBoundingClientRect().top - (box.current?.getBoundingClientRect().top ?? 0);
    if (top > LINE_PX - 8) setOpen(true);
  };
  return (
    <div
      className={`one-line ${open && more ? "one-line-open" : ""}`}
      onFocus={onFocus}
      onBlur={(event) => {
        if (!event.currentTarget.contains(event.relatedTarget)) setOpen(false);
      }}
    >
      <div className="one-line-clip">
        <div ref={box} className="one-line-all">
          {children}
        </div>
      </div>
      {more && (
        <button
          type="button"
          className="one-line-more"
          aria-expanded={open}
          onClick={() => {
            setOpen(!open);
          }}
        >
          {open ? "Less" : "More"}
        </button>
      )}
    </div>
  );
}
