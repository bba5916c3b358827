/** A small control that stands beside other windows, where the browser has such (Document Picture-in-Picture). */

interface PictureInPicture {
  requestWindow: (size: { width: number; height: number }) => Promise<Window>;
}

function api(): PictureInPicture | null {
  return (window as unknown as { documentPictureInPicture?: PictureInPicture }).documentPictureInPicture ?? null;
}

export function hasControl(): boolean {
  return api() !== null;
}

/** Open it; its two buttons freeze at once, or after the delay, so that it can be moved out of the picture. */
export async function openControl(freeze: () => void, countDown: () => void, seconds: number): Promise<void> {
  const opened = await api()?.requestWindow({ width: 250, height: 96 });
  if (!opened) return;
  const { document } = opened;
  document.title = "Tijera";
  Object.assign(document.body.style, { margin: "0", padding: "12px", display: "flex", gap: "8px", background: "#143a35", font: "600 14px sans-serif" }); // prettier-ignore
  const button = (words: string, act: () => void) => {
    const element = document.createElement("button");
    element.textContent = words;
    Object.assign(element.style, { flex: "1", padding: "8px", border: "1px solid #8cc0b5", borderRadius: "4px", background: "#fbf8f1", color: "#20282a", font: "inherit", cursor: "pointer" }); // prettier-ignore
    element.addEventListener("click", act);
    document.body.append(element);
  };
  button("Freeze", freeze);
  button(`In ${seconds.toString()} s`, countDown);
}
