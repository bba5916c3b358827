import { pictureUrl, type Look } from "../../api/client";
import { size } from "../../base/format";

interface Props {
  look: Look;
  used: boolean;
  /** The files in which the old picture stays. */
  keptIn: ReadonlySet<string>;
  onUse: (used: boolean) => void;
  onKeep: (file: string, keeps: boolean) => void;
}

/** A clipping as it is, and as it would be. */
export function LookView({ look, used, keptIn, onUse, onKeep }: Props) {
  const id = `look-${look.id}`;
  return (
    <article className="look" aria-labelledby={id}>
      <header>
        <h3 id={id}>{look.name}</h3>
        <p>{wordsOf(look)}</p>
        {look.marks_apart.length > 0 && (
          <p className="look-marks">
            {look.marks_apart.length} of {look.marks} marks stand where the picture shows something else now: look at
            them in Trim.
          </p>
        )}
        {look.changed && (
          <label>
            <input
              type="checkbox"
              checked={used}
              onChange={(event) => {
                onUse(event.target.checked);
              }}
            />{" "}
            Use the new one
          </label>
        )}
        {look.changed && used && look.places.length > 0 && (
          <fieldset>
            <legend>It stands in</legend>
            {look.places.map((each) => (
              <label key={each.destination}>
                <input
                  type="checkbox"
                  checked={!keptIn.has(each.destination)}
                  onChange={(event) => {
                    onKeep(each.destination, !event.target.checked);
                  }}
                />{" "}
                {each.name}
              </label>
            ))}
          </fieldset>
        )}
      </header>
      <figure>
        <figcaption>As it is, {size(look.old_width, look.old_height)}</figcaption>
        <img src={pictureUrl.clipping({ id: look.clipping, version: look.version })} alt={`${look.name} as it is`} />
      </figure>
      <figure>
        <figcaption>Now, {size(look.width, look.height)}</figcaption>
        <img src={pictureUrl.look(look)} alt={`${look.name} as the screen shows it now`} />
      </figure>
    </article>
  );
}

function wordsOf(look: Look): string {
  if (!look.changed) return "The screen shows the same.";
  if (look.width !== look.old_width || look.height !== look.old_height) return "It has another size now.";
  const percent = look.share * 100;
  return `${percent < 1 ? percent.toFixed(2) : percent.toFixed(0)} % of its pixels are others.`;
}
