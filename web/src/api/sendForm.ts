import { type Fault, offline } from "./client";
import { personKey, personName } from "./person";

/** Posts a form with files; the answer's JSON. Throws a Fault. */
export async function sendForm<T>(path: string, fields: Record<string, string | File>): Promise<T> {
  const form = new FormData();
  for (const [name, value] of Object.entries(fields))
    if (typeof value === "string") form.append(name, value);
    else form.append(name, value, value.name);
  const headers = { "x-person": personKey, "x-person-name": encodeURIComponent(personName()) };
  let response: Response;
  try {
    response = await fetch(path, { method: "POST", body: form, headers });
  } catch {
    throw offline();
  }
  const told = await response.json();
  if (!response.ok) throw { ...told, status: response.status } satisfies Fault;
  return told;
}
