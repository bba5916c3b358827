import type { ReactNode } from "react";

/** Drawn for these tools, on a field of 20 × 20. */
const DRAWINGS: Record<string, ReactNode> = {
  select: <path d="M5 2.5v13l3.6-3.2 2.3 5.2 2.3-1-2.3-5.1h4.6z" fill="currentColor" />,
  crop: <path d="M5.5 1.5v13h13M1.5 5.5h13v13" />,
  part: (
    <>
      <path d="M2.5 4.5h6v11h-6zM12 4.5h5.5v11H12" />
      <path d="M10.2 2v16" strokeDasharray="2.2 2" />
    </>
  ),
  arrow: <path d="M3 17 16 4M8.5 3.5h8v8" />,
  line: <path d="M3 16 17 4" />,
  text: <path d="M4 4.5h12M10 4.5v12M7.5 16.5h5" />,
  callout: <path d="M3 3.5h14v9h-8L5 16.5v-4H3z" />,
  pennant: <path d="M3 5h14l-4 5 4 5H3z" fill="currentColor" stroke="none" />,
  ring: <ellipse cx="10" cy="10" rx="7.5" ry="5.5" />,
  pen: <path d="M3 15.5c3-9 4.5-9 5-4s2 3.5 4-1 3-4.5 5-3" />,
  tint: <path d="M3.5 10h13" strokeWidth="7" strokeLinecap="butt" opacity="0.55" />,
  "black-out": <path d="M2.5 6h15v8h-15z" fill="currentColor" />,
  more: (
    <>
      <circle cx="4.5" cy="10" r="1.3" fill="currentColor" />
      <circle cx="10" cy="10" r="1.3" fill="currentColor" />
      <circle cx="15.5" cy="10" r="1.3" fill="currentColor" />
    </>
  ),
};

export function ToolIcon({ name }: { name: string }) {
  return (
    <svg
      className="tool-icon"
      viewBox="0 0 20 20"
      width="20"
      height="20"
      fill="none"
      stroke="currentColor"
      strokeWidth="2"
      strokeLinejoin="round"
      strokeLinecap="round"
      aria-hidden="true"
    >
      {DRAWINGS[name]}
    </svg>
  );
}
