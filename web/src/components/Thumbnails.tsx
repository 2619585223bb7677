import { Box } from "@mui/material";
import { useShow } from "../api/show";
import { useAge } from "../stores/age";
import { useLive } from "../stores/live";
import { ink } from "../theme/tokens";
import { Cap, Num } from "./atoms";
import { PictureCanvas } from "./PictureCanvas";

const STRIP = { width: 436, height: 50, widest: 150, narrowest: 20, gap: 10 };

/** With more matrices than these their pictures need the room of the words. */
const CAPTION_MOST = 6;

/** Sizes in true proportion; where many matrices would not fit, the wide ones give way. */
function thumbnailSizes(
  matrices: { width: number; height: number }[],
  captioned: boolean,
): [number, number][] {
  const room = STRIP.width + (captioned ? 0 : 84) - STRIP.gap * matrices.length;
  const natural = matrices.map((m) => Math.min(STRIP.widest, (STRIP.height / m.height) * m.width));
  let most = STRIP.widest;
  while (
    most > STRIP.narrowest &&
    natural.reduce((sum, w) => sum + Math.max(Math.min(w, most), 46), 0) > room
  )
    most -= 4;
  return matrices.map((m, index) => {
    const width = Math.max(Math.min(natural[index] ?? 0, most), 6);
    return [width, Math.min(Math.max((width / m.width) * m.height, 6), STRIP.height)];
  });
}

/** Every matrix as it is sent, side by side. */
export function Thumbnails() {
  const { data } = useShow();
  const age = useAge();
  const walking = useLive((live) => live.engine?.state.walking ?? false);
  const sent = useLive((live) => !live.engine || live.engine.outputs.some((one) => one.universes > 0));
  const matrices = data?.matrices ?? [];
  const sizes = thumbnailSizes(matrices, walking || age.pictures > 0 || matrices.length <= CAPTION_MOST);
  return (
    <Box>
      <Box
        sx={{
          display: "flex",
          gap: `${STRIP.gap}px`,
          alignItems: "flex-end",
          minWidth: 0,
          overflowX: "auto",
          scrollbarWidth: "none",
        }}
      >
        {matrices.map((matrix, index) => {
          const [width, height] = sizes[index] ?? [8, 5];
          return (
            <Box
              key={matrix.id}
              sx={{
                alignSelf: "flex-end",
                fontSize: 11.5,
                lineHeight: "14px",
                color: ink.soft,
                flex: "none",
              }}
            >
              <PictureCanvas
                matrix={matrix.id}
                label={`${matrix.name} as sent`}
                width={width}
                height={height}
              />
              <Box
                sx={{
                  mt: 0.5,
                  maxWidth: Math.max(width, 62),
                  maxHeight: 26,
                  lineHeight: "13px",
                  overflow: "hidden",
                  overflowWrap: "anywhere",
                }}
              >
                {matrix.name}
              </Box>
            </Box>
          );
        })}
      </Box>
      <Cap sx={{ ml: "auto", flex: "none", textAlign: "right", whiteSpace: "nowrap" }}>
        {age.pictures > 0 ? (
          <Box role="status" sx={{ color: ink.brass }}>
            not live:
            <br />
            <Num>{age.pictures}</Num> s old
          </Box>
        ) : walking ? (
          <Box component="a" href="/check" sx={{ color: ink.brass, display: "block" }}>
            test
            <br />
            walk
          </Box>
        ) : matrices.length > CAPTION_MOST ? null : matrices.length && !sent ? (
          <Box sx={{ color: ink.brass }}>
            nothing of
            <br />
            it is sent
          </Box>
        ) : matrices.length ? (
          <>
            read back from
            <br />
            the wire
          </>
        ) : (
          "matrices show here as they are sent"
        )}
      </Cap>
    </Box>
  );
}
