import type { Round } from "../../api/client";
import { clockOf, stopRounds, whenOf } from "../../api/rounds";

/** Above what some rounds have taken: when they go, what they missed and why, and the way to stop them. */
export function RoundsHead({ round, onBack }: { round: Round; onBack: () => void }) {
  const missed = round.gaps.reduce((sum, gap) => sum + gap.count, 0);
  return (
    <section className="rounds-head" aria-label={`Rounds of ${round.name}`}>
      <button type="button" className="choice" onClick={onBack}>
        All clippings
      </button>
      <h3>{round.name}</h3>
      <p>
        {whenOf(round)}
        <br />
        {round.taken.toString()} taken
        {round.same > 0 && `, ${round.same.toString()} × unchanged`}
        {missed > 0 && (
          <>
            , <b className="rounds-missed">{missed.toString()} missed</b>
          </>
        )}
        <br />
        {round.state === "going" && round.next_at
          ? `next at ${clockOf(round.next_at)}`
          : round.state === "stopped"
            ? "stopped"
            : "ended"}{" "}
        {round.state === "going" && (
          <button type="button" className="choice" onClick={() => void stopRounds(round)}>
            stop
          </button>
        )}
      </p>
      {round.gaps.length > 0 && (
        <ul aria-label="Missed">
          {[...round.gaps].reverse().map((gap) => (
            <li key={gap.first}>
              <b>
                {clockOf(gap.first)}
                {gap.count > 1 && ` to ${clockOf(gap.last)}, ${gap.count.toString()} ×`}
              </b>
              : {gap.why}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
