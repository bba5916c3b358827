import { type ReactNode } from "react";
import { Link, useNavigate } from "react-router";
import { openExample, openNew, useBench } from "../api/bench";
import { startSharing, useSources } from "../rooms/take";
import { goOnWith, useOpened } from "../api/files";
import { useRecipients, writeTo } from "../api/mail";
import { chooseFile, choosePictures } from "../rooms/intake";
import { FootHint } from "../rooms/FootHint";
import { OpenByPath } from "../rooms/OpenByPath";
import { addressOf, useBenchState } from "../base/state";

const EMPTY = [
  ["docx", "document"],
  ["xlsx", "spreadsheet"],
] as const;

/** Where to begin: from what is taken, or from where it goes. */
export function FirstMinute() {
  const navigate = useNavigate();
  const bench = useBench().data;
  const opened = useOpened();
  const { set, source } = useBenchState.getState();
  const [handbook, ...others] = bench?.examples ?? [];
  const screenIsThere = useSources().data?.some((each) => each.id === "screen" && each.available) ?? false;
  const from = (source: string) => {
    set({ source, monitor: source === "desk" ? "left" : null, frame: null, cut: null, goal: null });
    void navigate(addressOf("/take"));
  };
  const begin = (format: "eml" | "docx" | "xlsx") => {
    void openNew(format).then((begun) => begun && navigate(addressOf(format === "eml" ? "/take" : "/place")));
  };
  const goOn = async (id: string) => {
    await goOnWith(id);
    void navigate(addressOf("/place"));
  };
  return (
    <main className="room-body first">
      <h1 className="first-title">
        Cut what the screen shows.
        <br />
        Put it where it belongs. Keep it light.
      </h1>
      <p className="first-sub">Begin with either end: what you want to take, or where it should go.</p>
      <div className="first-cards">
        <Card title="Take from">
          <Way
            title="Practice desk"
            says="made-up windows to try things on"
            onClick={() => {
              from("desk");
            }}
          />
          {screenIsThere && (
            <Way
              title="This computer's screen"
              says="its windows, with exact colours"
              onClick={() => {
                from("screen");
              }}
            />
          )}
          <Way
            title="A shared screen…"
            says="the browser asks once which window or screen"
            onClick={() => {
              from("share");
              void startSharing();
            }}
          />
          <Way title="A picture…" says="PNG, JPEG, BMP, WebP, TIFF, GIF" onClick={choosePictures} />
          <p className="first-note">Or paste one with Ctrl + V, or drop it anywhere.</p>
        </Card>
        <Card title="Put into">
          <Way
            title="Open a file…"
            says="a document, spreadsheet or message; drop it"
            onClick={() => {
              chooseFile();
            }}
          />
          {handbook && (
            <Way
              title={handbook}
              says="example, fresh; 14 pages, limit 2 MB"
              onClick={() => void openExample(handbook).then(() => navigate(addressOf("/place")))}
            />
          )}
          {opened?.slice(0, 2).map((each) => (
            <Way
              key={each.id}
              title={each.name}
              says="opened before, as you left it"
              onClick={() => void goOn(each.id)}
            />
          ))}
          <div className="first-note">
            Or{" "}
            <Link to={addressOf("/history")} className="choice">
              all that was worked on
            </Link>
            <OpenByPath onOpened={() => void navigate(addressOf("/place"))} />
          </div>
          {others.length > 0 && (
            <p className="first-note">
              Examples too:{" "}
              {others.map((name, index) => (
                <span key={name}>
                  {index > 0 && ", "}
                  <button
                    type="button"
                    className="choice"
                    onClick={() => void openExample(name).then(() => navigate(addressOf("/place")))}
                  >
                    {name}
                  </button>
                </span>
              ))}
              .
            </p>
          )}
        </Card>
        <Card title="Write, save, make lighter">
          <Way
            title="New message"
            says="what is taken goes into it at once"
            onClick={() => {
              begin("eml");
            }}
          />
          <WriteTo />
          <Way
            title="A picture of its own"
            says="taken, named and saved as a file; or only kept"
            onClick={() => {
              from(source);
              set({ goal: "picture" });
            }}
          />
          <Way
            title="Make a file lighter…"
            says="picture by picture, against a limit"
            onClick={() => {
              chooseFile("/hand-over");
            }}
          />
          <p className="first-note">
            Or begin with an empty{" "}
            {EMPTY.map(([format, words], index) => (
              <span key={format}>
                {index > 0 && " or "}
                <button
                  type="button"
                  className="choice"
                  onClick={() => {
                    begin(format);
                  }}
                >
                  {words}
                </button>
              </span>
            ))}
            .
          </p>
        </Card>
      </div>
      <FootHint>
        <p>
          Everything stays on this computer until you hand it over. Your file is never changed: you download a new copy.
        </p>
      </FootHint>
    </main>
  );
}

/** A message to somebody who is written to often: the place is chosen with it, so that only the taking is left. */
function WriteTo() {
  const navigate = useNavigate();
  const saved = useRecipients()?.saved ?? [];
  if (saved.length === 0) return null;
  return (
    <div className="way-many" role="group" aria-label="Message to">
      <b>Message to</b>
      <span>
        {saved.slice(0, 3).map((each, index) => (
          <span key={each.address}>
            {index > 0 && " · "}
            <button
              type="button"
              className="choice"
              title={each.address}
              onClick={() => void writeTo(each).then((begun) => begun && navigate(addressOf("/take")))}
            >
              {each.name}
            </button>
          </span>
        ))}
      </span>
    </div>
  );
}

function Card({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="card">
      <h2>{title}</h2>
      {children}
    </section>
  );
}

function Way({ title, says, onClick }: { title: string; says: string; onClick: () => void }) {
  return (
    <button type="button" className="way" onClick={onClick}>
      <b>{title}</b>
      <span>{says}</span>
    </button>
  );
}
