import "react";

declare module "react" {
  interface CSSProperties {
    /** View pixels per millimetre, for text that scales with its lane. */
    "--mm"?: string;
    /** The width of a lane's text. */
    "--lane"?: string;
  }
}
