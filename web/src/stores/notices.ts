import { create } from "zustand";
import type { Fault } from "../api/client";

interface Notices {
  fault: Fault | null;
  said: string;
}

/** What is told at the foot of the screen: one fault, or one plain sentence. */
export const useNotices = create<Notices>(() => ({ fault: null, said: "" }));

export function notify(fault: Fault): void {
  useNotices.setState({ fault, said: "" });
}

export function say(said: string): void {
  useNotices.setState({ said, fault: null });
}

export function clearNotice(): void {
  useNotices.setState({ fault: null, said: "" });
}
