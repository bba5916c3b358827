import Button from "@mui/material/Button";
import { type Change, type Kind, type Kinds, type Mark, type OptionValue, type Sheet, newId } from "../../api/sheet";
import { say, useBenchState } from "../../base/state";
import { Amount, OptionField } from "./OptionFields";
import { useTrim } from "./state";
import { toolOf } from "./tools";

interface Props {
  sheet: Sheet;
  kinds: Kinds;
  change: (change: Change) => Promise<Sheet | null>;
}

/** What can be set for the chosen marks, or for the next one of the tool in hand. */
export function MarkLine({ sheet, kinds, change }: Props) {
  const { tool, chosen, copied } = useTrim();
  const marks = sheet.marks.filter((mark) => chosen.includes(mark.id));
  const kind = kinds.kinds.find((each) => each.id === (marks[0]?.kind ?? tool));
  const alike = marks.every((mark) => mark.kind === marks[0]?.kind);
  const name = marks.length > 1 ? `${marks.length.toString()} marks` : (kind?.name ?? toolOf(tool).name);
  const number = marks.length === 1 && marks[0]?.kind === "pennant" ? ` ${labelOf(marks[0])}` : "";
  return (
    <div className="tool-line" role="group" aria-label="What can be set">
      <span className="tool-name">
        {name}
        {number}
      </span>
      {kind && alike && kind.id !== "inset" && <Fields kind={kind} marks={marks} change={change} />}
      {marks.length === 1 && marks[0]?.kind === "inset" && (
        <Button
          variant="text"
          onClick={() => {
            useBenchState.getState().set({ clipping: String(marks[0]?.options["clipping"]) });
          }}
        >
          Trim it by itself
        </Button>
      )}
      {marks.length > 0 && <Deeds marks={marks} change={change} />}
      {marks.length === 0 && tool === "select" && (
        <>
          {copied.length > 0 && (
            <Button variant="outlined" onClick={() => void putCopied(change)}>
              Put {copied.length === 1 ? "the copied mark" : `${copied.length.toString()} copied marks`} here
            </Button>
          )}
          {sheet.marks.length > 0 && (
            <Button
              variant="text"
              onClick={() => void change({ do: "remove", ids: sheet.marks.map((mark) => mark.id) })}
            >
              Clear marks
            </Button>
          )}
        </>
      )}
      <Missing marks={marks} />
    </div>
  );
}

function Fields({ kind, marks, change }: { kind: Kind; marks: readonly Mark[]; change: Props["change"] }) {
  const { styles, set } = useTrim();
  const [first] = marks;
  const valueOf = (option: Kind["options"][number]): OptionValue =>
    first?.options[option.name] ?? styles[kind.id]?.[option.name] ?? option.value;
  const setOption = (name: string, value: OptionValue) => {
    if (first) void change({ do: "restyle", ids: marks.map((mark) => mark.id), options: { [name]: value } });
    else set({ styles: { ...styles, [kind.id]: { ...styles[kind.id], [name]: value } } });
  };
  // What a new mark says is written where it stands; a row of pennants is told apart before they are placed.
  const options = kind.options.filter((option) => marks.length === 1 || option.form !== "words");
  return (
    <>
      {options.map((option) => (
        <OptionField
          key={`${first?.id ?? "next"} ${option.name}`}
          option={option}
          value={valueOf(option)}
          onSet={(value) => {
            setOption(option.name, value);
          }}
        />
      ))}
      {marks.length === 1 &&
        first &&
        kind.derived.map((each) => (
          <Amount
            key={`${first.id} ${each.name}`}
            label={each.label}
            unit={each.unit}
            step={1}
            value={first.derived[each.name] ?? 0}
            onSet={(value) => void change({ do: "derive", id: first.id, name: each.name, value })}
          />
        ))}
    </>
  );
}

/** What can be done with chosen marks. */
function Deeds({ marks, change }: { marks: readonly Mark[]; change: Props["change"] }) {
  const ids = marks.map((mark) => mark.id);
  return (
    <span className="tool-end deeds">
      <Button
        variant="text"
        title="One step towards the front ( ] )"
        onClick={() => void change({ do: "order", ids, to: "up" })}
      >
        Up
      </Button>
      <Button
        variant="text"
        title="One step towards the back ( [ )"
        onClick={() => void change({ do: "order", ids, to: "down" })}
      >
        Down
      </Button>
      <Button
        variant="text"
        onClick={() => {
          copyMarks(marks);
        }}
      >
        Copy marks
      </Button>
      <Button variant="text" onClick={() => void removeMarks(ids, change)}>
        Delete
      </Button>
    </span>
  );
}

function Missing({ marks }: { marks: readonly Mark[] }) {
  const missing = [...new Set(marks.flatMap((mark) => Array.from(mark.missing)))].join(" ");
  if (!missing) return null;
  return (
    <p className="tool-warns" role="status">
      No font here has a letter for {missing}: a question mark stands there instead. Write it in another way.
    </p>
  );
}

export function labelOf(mark: Mark): string {
  if (mark.options["row"] !== "letters") return mark.number.toString();
  let [letters, rest] = ["", mark.number];
  while (rest > 0) {
    letters = String.fromCharCode(97 + ((rest - 1) % 26)) + letters;
    rest = Math.floor((rest - 1) / 26);
  }
  return letters;
}

export function copyMarks(marks: readonly Mark[]): void {
  if (marks.length === 0) return;
  useTrim.getState().set({ copied: marks, pastes: true });
  const what = marks.length === 1 ? "1 mark is" : `${marks.length.toString()} marks are`;
  say(`${what} copied. Ctrl + V puts them here or on another clipping.`);
}

export async function putCopied(change: Props["change"]): Promise<void> {
  const { copied, set } = useTrim.getState();
  if (copied.length === 0) return;
  const marks = copied.map((mark) => ({
    id: newId(),
    kind: mark.kind,
    points: mark.points,
    options: mark.options,
    pressures: [],
  }));
  const sheet = await change({ do: "add", marks, exact: true });
  if (sheet) set({ chosen: marks.map((mark) => mark.id) });
}

export async function removeMarks(ids: readonly string[], change: Props["change"]): Promise<void> {
  useTrim.getState().set({ chosen: [] });
  await change({ do: "remove", ids: [...ids] });
}
