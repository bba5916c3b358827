/** What a room still does when somebody goes to another one: what is held or begun there is kept, not lost. */

type Leaving = (room: string) => Promise<void> | void;

const handlers = new Set<Leaving>();

/** Have something done before another room opens; gives the way to take it back. */
export function onLeaving(handler: Leaving): () => void {
  handlers.add(handler);
  return () => {
    handlers.delete(handler);
  };
}

/** Resolves when the room that is open has kept what it had to. */
export async function leaveFor(room: string): Promise<void> {
  await Promise.all([...handlers].map(async (each) => each(room)));
}
