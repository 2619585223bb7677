import { create } from "zustand";
import type { Schemas } from "../api/client";

interface Coming {
  /** The plan that is in view, "" for none: what is added comes to hang on it. */
  plan: string;
  /** What the typed line would add, where it would hang. */
  items: Schemas["PlanItem"][];
}

export const useComing = create<Coming>(() => ({ plan: "", items: [] }));
