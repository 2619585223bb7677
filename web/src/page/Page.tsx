import { Box, Button } from "@mui/material";
import { useEffect, useRef, useState } from "react";
import { useLocation, useRoute } from "wouter";
import type { WholeShow } from "../api/client";
import { useShow } from "../api/show";
import { Loading } from "../components/Loading";
import { OLD_MS } from "../stores/age";
import { useLive } from "../stores/live";
import { BEAT_MS, beatNow, letGoOf, openPage, usePageNow } from "../stores/page";
import { makeSafe, urge } from "../stores/urgent";
import { ink, mono } from "../theme/tokens";
import { ItemView } from "./ItemView";
import type { Item, Page as PageData } from "./shapes";
import { useAwake } from "./useAwake";

/** A page of pads and faders for a tablet at the lamp: large, by several fingers, true whoever started what it shows. */
export function Page() {
  const [, params] = useRoute("/page/:slug");
  const { data, error } = useShow();
  const page = data?.pages.find((one) => one.slug === params?.slug);
  const id = page?.id ?? "";
  useEffect(() => {
    openPage(id);
    return () => openPage("");
  }, [id]);
  useAwake();
  useInstalled(page?.slug);
  const [levels, setLevels] = useState(false);
  if (!data) return <Loading error={error} />;
  return (
    <Box
      component="main"
      sx={{
        height: "100dvh",
        display: "grid",
        gridTemplateRows: "auto minmax(0,1fr) auto",
        userSelect: "none",
        WebkitTouchCallout: "none",
        overscrollBehavior: "none",
        overflow: "hidden",
      }}
      onContextMenu={(event: React.MouseEvent) => event.preventDefault()}
    >
      <TopLine page={page} pages={data.pages} />
      {page ? (
        <Items page={page} show={data} levels={levels} />
      ) : (
        <NoPage slug={params?.slug ?? ""} pages={data.pages} />
      )}
      <Foot levels={levels} onLevels={page?.items.some(isLevel) ? () => setLevels(!levels) : undefined} />
    </Box>
  );
}

interface ItemsProps {
  page: PageData;
  show: WholeShow;
  /** A phone has room for pads or for levels. */
  levels: boolean;
}

const isLevel = (one: Item): boolean => one.kind === "fader";

function Items({ page, show, levels }: ItemsProps) {
  const sorted = [...page.items].sort((a, b) => a.y - b.y || a.x - b.x);
  const last = Math.max(...page.items.map((one) => one.y + one.h), 1);
  return (
    <Box
      role="group"
      aria-label={`Page ${page.name}`}
      sx={{
        display: "grid",
        gap: "10px",
        p: "10px",
        minHeight: 0,
        gridTemplateColumns: `repeat(${page.columns}, minmax(0,1fr))`,
        gridTemplateRows: `repeat(${last}, minmax(0,1fr))`,
        [PHONE]: {
          gridTemplateColumns: "repeat(2, minmax(0,1fr))",
          gridTemplateRows: "none",
          gridAutoRows: "minmax(78px, 1fr)",
          gridAutoFlow: "dense",
          overflowY: "auto",
        },
      }}
    >
      {sorted.map((one) => (
        <Box
          key={one.id}
          sx={{
            display: "flex",
            minWidth: 0,
            minHeight: 0,
            gridColumn: `${one.x + 1} / span ${one.w}`,
            gridRow: `${one.y + 1} / span ${one.h}`,
            [PHONE]: {
              display: isLevel(one) === levels ? "flex" : "none",
              gridColumn: one.w > page.columns / 2 || WIDE.has(one.kind) ? "1 / -1" : "auto",
              gridRow: one.kind === "fader" && one.h > one.w ? "span 2" : "auto",
            },
          }}
        >
          <ItemView item={one} show={show} />
        </Box>
      ))}
    </Box>
  );
}

const PHONE = "@media (max-width: 600px)";
const WIDE = new Set(["list", "crossfader"]);

/** The same on every page: its name, the connection, the beat, who else is here. */
function TopLine({ page, pages }: { page: PageData | undefined; pages: PageData[] }) {
  const connected = useLive((live) => live.connected);
  const ms = usePageNow((now) => now.ms);
  const here = usePageNow((now) => now.here);
  const beat = useRef<HTMLSpanElement>(null);
  const bpm = usePageNow((now) => now.bpm);
  useEffect(() => {
    const timer = setInterval(() => {
      const now = usePageNow.getState();
      const age = performance.now() - now.at;
      const said = age > OLD_MS ? "–" : `beat ${(beatNow() % 4) + 1}/4`;
      if (beat.current && beat.current.textContent !== said) beat.current.textContent = said;
    }, BEAT_MS);
    return () => clearInterval(timer);
  }, []);
  return (
    <Box
      sx={{
        display: "flex",
        alignItems: "center",
        gap: 2,
        px: 2,
        height: 52,
        borderBottom: `1px solid ${ink.hair}`,
        whiteSpace: "nowrap",
        overflow: "hidden",
      }}
    >
      <Box
        component="h1"
        sx={{ m: 0, fontSize: 22, fontWeight: 650, overflow: "hidden", textOverflow: "ellipsis" }}
      >
        {page?.name ?? "No such page"}
      </Box>
      {page && pages.length > 1 && <Others page={page} pages={pages} />}
      <Box role="status" sx={{ color: connected ? ink.sea : ink.coral, fontSize: 14, fontWeight: 600 }}>
        {connected ? "connected" : "away: what you see may be old"}
        {connected && ms !== undefined && (
          <span style={{ font: `500 14px ${mono}`, color: "var(--soft)", marginLeft: 10 }}>
            {Math.round(ms)} ms
          </span>
        )}
      </Box>
      <Box sx={{ ml: "auto", font: `500 20px ${mono}` }}>{bpm.toFixed(1)}</Box>
      <span ref={beat} style={{ font: `500 14px ${mono}`, color: "var(--soft)", width: 70 }} />
      <Box
        title={here.length ? `Also here: ${here.map((one) => one || "somebody").join(", ")}` : undefined}
        sx={{ color: ink.soft, fontSize: 14, display: "flex", gap: 1, [PHONE]: { display: "none" } }}
      >
        {here.length ? (
          here.slice(0, 3).map((one, n) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: two may have one name
            <span key={n} style={{ display: "flex", alignItems: "center", gap: 6 }}>
              <Initial>{(one || "?").slice(0, 1).toUpperCase()}</Initial>
              {one || "somebody"}
            </span>
          ))
        ) : (
          <span>nobody else here</span>
        )}
        {here.length > 3 && <span>and {here.length - 3} more</span>}
      </Box>
    </Box>
  );
}

const Initial = ({ children }: { children: React.ReactNode }) => (
  <span
    aria-hidden="true"
    style={{
      display: "grid",
      placeItems: "center",
      width: 22,
      height: 22,
      border: "1.5px solid var(--text)",
      borderRadius: 4,
      fontSize: 13,
      fontWeight: 650,
      color: "var(--text)",
    }}
  >
    {children}
  </span>
);

/** The other pages of the show, one touch away. */
function Others({ page, pages }: { page: PageData; pages: PageData[] }) {
  const [, go] = useLocation();
  return (
    <select
      aria-label="Page"
      value={page.slug}
      onChange={(event) => go(`/page/${event.target.value}`)}
      style={{ height: 34, background: "transparent", color: "var(--soft)", border: 0, fontSize: 14 }}
    >
      {pages.map((one, n) => (
        <option key={one.id} value={one.slug}>
          {one.slug === page.slug ? `${n + 1} of ${pages.length}` : one.name}
        </option>
      ))}
    </select>
  );
}

/** Lasers safe is always there; and whatever hands hold can be let go of by anybody. */
function Foot({ levels, onLevels }: { levels: boolean; onLevels: (() => void) | undefined }) {
  const armed = useLive((live) => live.engine?.state.armed.length ?? 0);
  const held = usePageNow((now) => Object.values(now.items).filter((one) => one.finger).length);
  const blackout = useLive((live) => live.engine?.state.blackout ?? false);
  const letGo = () => {
    for (const one of Object.values(usePageNow.getState().items)) if (one.finger) letGoOf(one.finger);
  };
  return (
    <Box sx={{ display: "flex", gap: 1.25, p: "0 10px 10px", alignItems: "stretch", height: 66 }}>
      <Button
        onClick={letGo}
        disabled={!held}
        sx={{ flex: 1, minWidth: 0, fontSize: 16, borderColor: held ? ink.brass : ink.hair2 }}
      >
        {held ? `${held} by hand, let go` : "nothing held"}
      </Button>
      {onLevels && (
        <Button
          onClick={onLevels}
          aria-pressed={levels}
          sx={{ display: "none", [PHONE]: { display: "block" }, fontSize: 16, minWidth: 84 }}
        >
          {levels ? "Pads" : "Levels"}
        </Button>
      )}
      {blackout && (
        <Button
          onClick={() => urge("blackout", false)}
          sx={{ color: ink.coral, borderColor: ink.coral, fontSize: 16 }}
        >
          Blackout is on: end it
        </Button>
      )}
      <Button
        onClick={() => makeSafe()}
        sx={{
          flex: 1,
          minWidth: 0,
          color: armed ? ink.coral : ink.text,
          borderColor: ink.coral,
          fontSize: 17,
          fontWeight: 650,
          display: "block",
          lineHeight: "20px",
        }}
      >
        Lasers safe
        <Box sx={{ fontSize: 13, fontWeight: 400, color: armed ? ink.coral : ink.sea }}>
          {armed ? `${armed} armed now` : "safe now"}
        </Box>
      </Button>
    </Box>
  );
}

function NoPage({ slug, pages }: { slug: string; pages: PageData[] }) {
  return (
    <Box sx={{ p: 3, fontSize: 17, color: ink.soft }}>
      There is no page at /page/{slug} in the running show.
      {pages.map((one) => (
        <Box key={one.id} sx={{ mt: 2 }}>
          <a href={`/page/${one.slug}`} style={{ color: "var(--brass)", fontSize: 20, fontWeight: 600 }}>
            {one.name}
          </a>
        </Box>
      ))}
    </Box>
  );
}

/** Can be installed as an app of its own. */
function useInstalled(slug: string | undefined): void {
  useEffect(() => {
    if (!slug) return;
    const link = document.createElement("link");
    link.rel = "manifest";
    link.crossOrigin = "use-credentials";
    link.href = `/api/pages/at/${slug}/manifest.webmanifest`;
    document.head.append(link);
    return () => link.remove();
  }, [slug]);
}
