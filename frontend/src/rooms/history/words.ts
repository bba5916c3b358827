/** "Thu 12 Mar 2026, 12:05". */
export function dayAndTime(moment: string): string {
  const at = new Date(moment);
  const day = at.toLocaleDateString("en-GB", { weekday: "short", day: "numeric", month: "short", year: "numeric" });
  return `${day.replace(",", "")}, ${at.toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" })}`;
}
