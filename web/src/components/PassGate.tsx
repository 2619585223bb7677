import { type ReactNode, useCallback, useEffect, useState } from "react";
import { answer, client, isFault } from "../api/client";
import { queries, useShow } from "../api/show";
import { fetched } from "./fetched";
import type { PassFormProps } from "./PassForm";

/** Fetched where a code is asked for. */
const PassForm = fetched<PassFormProps>(async () => (await import("./PassForm")).PassForm);

/** Where the QR code of Access leads: the code stands behind the #, which no server is sent. */
const JOIN = "/join";
/** And that of a page. */
const PAGE = "/page/";
const NARROW = 700;

/** Asks for the pass code where the server wants one, and tells when the server is away at first. */
export function PassGate({ children }: { children: ReactNode }) {
  const { error } = useShow();
  const [wrong, setWrong] = useState("");
  const joining =
    (location.pathname === JOIN || location.pathname.startsWith(PAGE)) && location.hash.length > 1;
  const give = useCallback(async (given: string) => {
    try {
      await answer(client.POST("/api/pass", { body: { code: given } }));
      await queries.invalidateQueries();
      // The code does not stay in the address, nor in the history.
      if (location.hash) history.replaceState(null, "", location.pathname);
      location.replace(location.pathname === JOIN ? (innerWidth < NARROW ? "/phone" : "/") : location.href);
      if (location.pathname !== JOIN) location.reload();
    } catch (fault) {
      if (isFault(fault)) setWrong(`${fault.what} ${fault.repair}`);
    }
  }, []);
  useEffect(() => {
    if (joining) void give(decodeURIComponent(location.hash.slice(1)));
  }, [joining, give]);
  if (error?.status !== 401 && !joining) return children;
  return <PassForm wrong={wrong} onGive={(code) => void give(code)} />;
}
