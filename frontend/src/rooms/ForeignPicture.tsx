import { type ComponentProps, useState } from "react";

interface Props extends ComponentProps<"img"> {
  src: string;
  alt: string;
  /** Whether there is room for a few letters only. */
  brief?: boolean;
}

/** A picture of somebody else's file; where the browser can't show it, its place says so and keeps its size. */
export function ForeignPicture({ brief = false, ...image }: Props) {
  const [unshown, setUnshown] = useState<string | null>(null);
  const { src, alt, className = "", style } = image;
  if (unshown !== src)
    return (
      <img
        {...image}
        alt={alt}
        onError={() => {
          setUnshown(src);
        }}
      />
    );
  return (
    <span
      role="img"
      aria-label={`${alt}: this picture can’t be shown here`}
      className={`${className} no-picture`}
      style={style}
    >
      {brief ? "not shown" : "This picture can’t be shown here. It stays in the file as it is."}
    </span>
  );
}
