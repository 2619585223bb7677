import { useEffect, useState } from "react";
import { useLive } from "./live";
import { latest } from "./pictures";

/** What is older than this is never shown as live. */
export const OLD_MS = 1000;
const LOOK_MS = 250;

export interface Age {
  /** Whole seconds since the engine's state was heard; 0 while it is fresh. */
  state: number;
  /** The same of pictures and levels. */
  pictures: number;
}

const seconds = (at: number): number => {
  const age = performance.now() - at;
  return age > OLD_MS ? Math.floor(age / 1000) : 0;
};

/** How old what is on the screen is, looked at four times a second. */
export function useAge(): Age {
  const [age, setAge] = useState<Age>({ state: 0, pictures: 0 });
  useEffect(() => {
    const look = () => {
      const now = { state: seconds(useLive.getState().engineAt), pictures: seconds(latest.at) };
      setAge((before) => (before.state === now.state && before.pictures === now.pictures ? before : now));
      // Pictures of the wire turn grey everywhere at once, by a rule of the theme.
      document.documentElement.toggleAttribute("data-old", now.pictures > 0 || now.state > 0);
    };
    const timer = setInterval(look, LOOK_MS);
    return () => clearInterval(timer);
  }, []);
  return age;
}
