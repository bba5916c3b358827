import { useQuery } from "@tanstack/react-query";
import { api, must, type Arrival, type Destination } from "../../api/client";
import { weightOf } from "../../base/format";

/** How a message arrives: where pictures show, and where they don't, side by side. */
export function Arrives({ destination }: { destination: Destination }) {
  const arrival = useQuery({
    queryKey: ["arrival", destination.id, destination.version, destination.placements],
    placeholderData: (before) => before,
    queryFn: async () =>
      must(
        await api.GET("/api/v1/destinations/{destination}/arrival", {
          params: { path: { destination: destination.id } },
        }),
      ),
  }).data;
  if (!arrival) return <p>Writing the message to look at it…</p>;
  return (
    <div className="arrives">
      <section aria-label="Where pictures show">
        <h3>Where pictures show</h3>
        {arrival.has_page ? (
          <iframe
            key={arrival.version}
            title="Where pictures show"
            sandbox=""
            src={`/api/v1/destinations/${destination.id}/arrival/page?v=${arrival.version}`}
          />
        ) : (
          <pre className="arrives-plain">{arrival.plain}</pre>
        )}
        <Hanging listed={arrival.listed} none="No files are attached." />
      </section>
      <section aria-label="Where they don’t">
        <h3>Where they don’t</h3>
        <pre className="arrives-plain">{arrival.plain || "No text."}</pre>
        <Hanging listed={arrival.listed_plain} none="No files are attached: the pictures can’t be seen there." />
      </section>
    </div>
  );
}

function Hanging({ listed, none }: { listed: Arrival["listed"]; none: string }) {
  if (listed.length === 0) return <p className="message-hint">{none}</p>;
  return (
    <ul className="arrives-files">
      {listed.map((each) => (
        <li key={each.member}>
          <b>{each.name}</b> {weightOf(each.bytes)} as sent
        </li>
      ))}
    </ul>
  );
}
