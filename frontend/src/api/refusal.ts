import { useState } from "react";
import { Unread } from "../base/numbers";
import { showError } from "./bench";
import { ProblemError } from "./client";

/** Something that is typed may be refused: then it is said beside the fields, where it can be put right. */
export function useRefusal(): [string, (act: () => Promise<void>) => Promise<void>] {
  const [refusal, setRefusal] = useState("");
  const tried = async (act: () => Promise<void>) => {
    try {
      await act();
    } catch (error) {
      if (error instanceof Unread) setRefusal(error.message);
      else if (error instanceof ProblemError) setRefusal(`${error.problem.detail} ${error.problem.remedy}`);
      else showError(error);
    }
  };
  return [refusal, tried];
}
