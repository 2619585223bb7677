import { answer, client, type Fault, offline } from "./client";

function fetchTo(href: string, name: string): void {
  const link = document.createElement("a");
  link.href = href;
  link.download = name;
  link.click();
}

/** Asks the server to make a small file and hands it to the browser to keep. Throws a Fault. */
export async function download(path: string, name: string): Promise<void> {
  let response: Response;
  try {
    response = await fetch(path, { method: "POST" });
  } catch {
    throw offline();
  }
  if (!response.ok) throw { ...(await response.json()), status: response.status } satisfies Fault;
  const url = URL.createObjectURL(await response.blob());
  fetchTo(url, name);
  setTimeout(() => URL.revokeObjectURL(url), 60_000);
}

/** Saves the running show: the server makes the file, reads it back, and only then it is fetched. */
export async function saveShow(): Promise<string> {
  const saved = await answer(client.POST("/api/show/file"));
  fetchTo(`/api/show/file/${saved.token}`, saved.name);
  return saved.name;
}
