import { type Fault, offline } from "./client";
import { newId, personKey, personName } from "./person";

/** Loads a show from a file as a new show; it is not opened. Throws a Fault. */
export async function sendShowFile(file: File): Promise<void> {
  const form = new FormData();
  form.append("id", newId());
  form.append("file", file, file.name);
  const headers = { "x-person": personKey, "x-person-name": encodeURIComponent(personName()) };
  let response: Response;
  try {
    response = await fetch("/api/shows/file", { method: "POST", body: form, headers });
  } catch {
    throw offline();
  }
  if (!response.ok) throw { ...(await response.json()), status: response.status } satisfies Fault;
}
