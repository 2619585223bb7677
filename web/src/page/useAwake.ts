import { useEffect } from "react";

/** The screen stays on while the page is seen, where the browser allows it. */
export function useAwake(): void {
  useEffect(() => {
    let lock: WakeLockSentinel | null = null;
    const ask = async () => {
      if (document.hidden || !("wakeLock" in navigator)) return;
      lock = await navigator.wakeLock.request("screen").catch(() => null);
    };
    void ask();
    document.addEventListener("visibilitychange", ask);
    return () => {
      document.removeEventListener("visibilitychange", ask);
      void lock?.release();
    };
  }, []);
}
