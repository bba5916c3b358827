import type { ReactNode } from "react";

interface Props {
  open: boolean;
  onChange: (open: boolean) => void;
  /** What pressing it does now. */
  children: ReactNode;
}

/** Unfolds what stands behind it, and folds it again. */
export function UnfoldButton({ open, onChange, children }: Props) {
  return (
    <button
      type="button"
      className="choice"
      aria-expanded={open}
      onClick={() => {
        onChange(!open);
      }}
    >
      {children}
    </button>
  );
}
