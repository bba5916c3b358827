import Button from "@mui/material/Button";
import { chooseFile } from "./intake";

/** The way to another file, at the end of every room that shows one. */
export function OpenAnother() {
  return (
    <Button
      variant="outlined"
      onClick={() => {
        chooseFile();
      }}
    >
      Open another file…
    </Button>
  );
}
