/** Of fixtures that are not chosen whole: what of them is. */
export function partsOf(parts: string[]): Map<string, string> {
  const cells = new Map<string, string[]>();
  for (const part of parts) {
    const [id = "", cell = ""] = part.split(":");
    cells.set(id, [...(cells.get(id) ?? []), cell]);
  }
  return new Map(
    [...cells].map(([id, list]) => {
      const own = list.filter((cell) => cell !== "0");
      if (!own.length) return [id, "shared"];
      return [id, list.length > own.length ? `0+${own.length}` : `${own.length} of`];
    }),
  );
}
