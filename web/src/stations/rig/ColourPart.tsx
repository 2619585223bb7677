import { Box } from "@mui/material";
import { answer, client, type FixtureView, type Schemas } from "../../api/client";
import { useEdit } from "../../api/show";
import { Cap, Part } from "../../components/atoms";
import { Choices } from "../../components/Choices";

type Extra = NonNullable<Schemas["FixtureColour"]["extra"]>;
type Response = NonNullable<Schemas["FixtureColour"]["response"]>;

const EXTRA_SAYS: Record<Extra, string> = {
  replace: "White takes the common part out of red, green and blue.",
  add: "White comes on top of red, green and blue: brighter, paler.",
  match: "White takes its own colour's part in linear light: the colour stays what was asked for.",
  leave: "White and amber stay dark.",
};

const RESPONSE_SAYS: Record<Response, string> = {
  "as is": "A value is sent as it is.",
  "gamma 2.2": "Values follow a power of 2.2, for LEDs that dim in proportion.",
  "CIE lightness": "Half looks half as bright to an eye (CIE 1976).",
};

/** How the chosen fixtures make colour. */
export function ColourPart({ fixtures }: { fixtures: FixtureView[] }) {
  const edit = useEdit();
  const last = fixtures.at(-1);
  if (!last?.emitters.length) return null;
  const set = (changes: Partial<Schemas["FixtureColour"]>) =>
    edit(() =>
      answer(client.POST("/api/fixtures/colour", { body: { ids: fixtures.map((f) => f.id), ...changes } })),
    );
  const hasExtra = fixtures.some((f) => f.emitters.includes("white") || f.emitters.includes("amber"));
  const mixed = fixtures.some((f) => f.extra !== last.extra || f.response !== last.response);
  return (
    <Part>
      <Box sx={{ display: "flex", justifyContent: "space-between", mb: 1 }}>
        <Box sx={{ fontWeight: 600 }}>Colour</Box>
        <Cap>{last.emitters.join(", ")}</Cap>
      </Box>
      {hasExtra && last.emitters.length > 1 && (
        <Box sx={{ mb: 1.25 }}>
          <Choices
            names={(Object.keys(EXTRA_SAYS) as Extra[]).map((name) => [name, name])}
            chosen={last.extra as Extra}
            onChoose={(extra) => set({ extra })}
          />
          <Cap sx={{ mt: 0.5 }}>{EXTRA_SAYS[last.extra as Extra]}</Cap>
        </Box>
      )}
      <Choices
        names={(Object.keys(RESPONSE_SAYS) as Response[]).map((name) => [name, name])}
        chosen={last.response as Response}
        onChoose={(response) => set({ response })}
      />
      <Cap sx={{ mt: 0.5 }}>{RESPONSE_SAYS[last.response as Response]}</Cap>
      {fixtures.length > 1 && (
        <Cap sx={{ mt: 0.5 }}>
          {mixed ? "The chosen fixtures differ; " : ""}a choice counts for all {fixtures.length} chosen.
        </Cap>
      )}
    </Part>
  );
}
