import { type Fault, offline, type Schemas } from "./client";
import { personKey, personName } from "./person";

export type SheetAnswer = Schemas["SheetAnswer"];

/** Sends a patch sheet: to look what it would do, or to do it. Throws a Fault. */
export async function sendSheet(file: File, onlyLook: boolean): Promise<SheetAnswer> {
  const form = new FormData();
  form.append("file", file, file.name);
  form.append("only_look", String(onlyLook));
  const headers = { "x-person": personKey, "x-person-name": encodeURIComponent(personName()) };
  let response: Response;
  try {
    response = await fetch("/api/patch/sheet", { method: "POST", body: form, headers });
  } catch {
    throw offline();
  }
  const told = await response.json();
  if (!response.ok) throw { ...told, status: response.status } satisfies Fault;
  return told;
}
