import { create } from "zustand";
import type { Fault } from "../api/client";

interface Notices {
  fault: Fault | null;
  said: string;
  /** Takes back what is said, where that can be. */
  back: (() => void) | null;
}

/** What is told at the foot of the screen: one fault, or one plain sentence. */
export const useNotices = create<Notices>(() => ({ fault: null, said: "", back: null }));

export function notify(fault: Fault): void {
  useNotices.setState({ fault, said: "", back: null });
}

export function say(said: string, back: (() => void) | null = null): void {
  useNotices.setState({ said, back, fault: null });
}

export function clearNotice(): void {
  useNotices.setState({ fault: null, said: "", back: null });
}
