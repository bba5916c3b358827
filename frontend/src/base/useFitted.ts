import { type RefObject, useLayoutEffect, useState } from "react";

/** The size of an element's inside, followed as it changes. */
export function useSize(element: RefObject<HTMLElement | null>): { width: number; height: number } {
  const [size, setSize] = useState({ width: 0, height: 0 });
  useLayoutEffect(() => {
    const node = element.current;
    if (!node) return undefined;
    const read = () => {
      setSize({ width: node.clientWidth, height: node.clientHeight });
    };
    read();
    const observer = new ResizeObserver(read);
    observer.observe(node);
    return () => {
      observer.disconnect();
    };
  }, [element]);
  return size;
}

/** The scale at which content of one size fits into another, with a margin. */
export function fittingScale(
  content: { width: number; height: number },
  room: { width: number; height: number },
  margin = 0,
): number {
  if (!content.width || !content.height) return 1;
  const scale = Math.min((room.width - margin) / content.width, (room.height - margin) / content.height);
  return Math.max(scale, 0.02);
}
