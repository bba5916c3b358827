import { useQuery } from "@tanstack/react-query";
import { showError } from "./bench";
import { api, must } from "./client";

function useSession() {
  return useQuery({
    queryKey: ["session"],
    staleTime: Infinity,
    meta: { quiet: true },
    queryFn: async () => must(await api.GET("/api/v1/session")),
  });
}

/** Who is signed in, where several people share the server; null where it is one person's own, undefined until that is known. */
export function usePerson(): string | null | undefined {
  return useSession().data?.person;
}

/** Whether the server was asked who is signed in, and has not answered yet: what is offered depends on it. */
export function usePersonPending(): boolean {
  return useSession().isPending;
}

/** End this session, or all of one's own; the page to sign in comes up. */
export async function signOut(everywhere: boolean): Promise<void> {
  try {
    // Not described: the door in front of everybody's application answers these.
    await fetch(everywhere ? "/api/v1/sessions" : "/api/v1/session", { method: "DELETE" });
    window.location.assign("/sign-in");
  } catch (error) {
    showError(error);
  }
}
