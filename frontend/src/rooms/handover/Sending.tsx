import Button from "@mui/material/Button";
import type { Destination } from "../../api/client";
import { copyMessage, haveDraft, sendMessage, useMail } from "../../api/mail";
import { useWeight } from "../../api/bench";
import { useGoTo } from "../../api/useGoTo";
import { exactWeight } from "../../base/format";
import { makeItFit } from "../weight";
import { MailServer } from "./MailServer";
import { Recipients } from "./Recipients";
import { SentList } from "./SentList";

/** The ways out of a message, which server takes it, and what became of those that were sent. */
export function Sending({ destination }: { destination: Destination }) {
  const weight = useWeight().data;
  const mail = useMail();
  const goTo = useGoTo();
  return (
    <>
      <div className="file-next">
        <span>
          {weight ? (
            <>
              <b>{exactWeight(weight.file_bytes)}</b> on the way.{" "}
            </>
          ) : (
            "Measuring… "
          )}
          Before it leaves, the server is asked whether it takes it.
        </span>
        <span className="file-ways">
          <Button variant="outlined" onClick={() => void haveDraft(destination.id)}>
            Draft for my mail program
          </Button>
          <Button variant="outlined" onClick={() => void copyMessage(destination.id)}>
            Copy to paste elsewhere
          </Button>
          <Button
            variant="contained"
            disabled={!mail?.host}
            onClick={() => void sendMessage(destination.id, { goTo, makeItFit })}
          >
            Send
          </Button>
        </span>
      </div>
      <MailServer />
      <Recipients />
      <h3>Sent and waiting</h3>
      <SentList />
    </>
  );
}
