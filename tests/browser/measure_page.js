// What of a page is cut, lies outside, or lies upon another: names of elements, each list empty where all is well.
const found = { wide: document.documentElement.scrollWidth - innerWidth, cut: [], outside: [], upon: [] };
const shown = (e) => {
  const style = getComputedStyle(e);
  const box = e.getBoundingClientRect();
  return style.visibility !== "hidden" && style.opacity !== "0" && box.width > 1 && box.height > 1;
};
const hasText = (e) => [...e.childNodes].some((n) => n.nodeType === 3 && n.textContent.replace(/\u200b/g, "").trim());
const named = (e) => `${e.tagName.toLowerCase()} '${(e.getAttribute("aria-label") || e.textContent || "").trim().slice(0, 40)}'`;
/** Cut on purpose, with all of it to be read in its title. */
const told = (e) => e.closest("[title]") !== null;
for (const e of document.querySelectorAll("body *")) {
  if (!shown(e) || e.closest("svg") || !(hasText(e) || e.tagName === "INPUT")) continue;
  const style = getComputedStyle(e);
  const box = e.getBoundingClientRect();
  if (e.tagName !== "INPUT" && style.overflow !== "visible" && e.scrollWidth > e.clientWidth + 1 && !told(e)) found.cut.push(named(e));
  for (let up = e.parentElement; up; up = up.parentElement) {
    const around = getComputedStyle(up).overflowX;
    if (around === "visible") continue;
    const edge = up.getBoundingClientRect();
    if (/hidden|clip/.test(around) && (box.left < edge.left - 1 || box.right > edge.right + 1) && !told(e)) found.outside.push(named(e));
    break;
  }
}
const acts = [...document.querySelectorAll("button, input, a, [role=slider], [role=combobox]")].filter(
  (e) => shown(e) && !e.closest("[aria-hidden=true]"),
);
const seen = acts.map((e) => {
  const box = e.getBoundingClientRect();
  let [left, top, right, bottom] = [box.left, box.top, box.right, box.bottom];
  for (let up = e.parentElement; up; up = up.parentElement) {
    if (getComputedStyle(up).overflow === "visible") continue;
    const edge = up.getBoundingClientRect();
    [left, top] = [Math.max(left, edge.left), Math.max(top, edge.top)];
    [right, bottom] = [Math.min(right, edge.right), Math.min(bottom, edge.bottom)];
  }
  return [left, top, right, bottom];
});
for (let i = 0; i < acts.length; i++)
  for (let j = i + 1; j < acts.length; j++) {
    if (acts[i].contains(acts[j]) || acts[j].contains(acts[i])) continue;
    const wide = Math.min(seen[i][2], seen[j][2]) - Math.max(seen[i][0], seen[j][0]);
    const high = Math.min(seen[i][3], seen[j][3]) - Math.max(seen[i][1], seen[j][1]);
    if (wide > 2 && high > 2) found.upon.push(`${named(acts[i])} and ${named(acts[j])}`);
  }
return found;
