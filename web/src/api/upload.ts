import { type Fault, offline } from "./client";
import { personKey, personName } from "./person";

/** The clip that has the content now, and what to know of it; or what was wrong. */
export interface Uploaded {
  id: string;
  said: string;
  fault: Fault | null;
}

const failed = (fault: Fault): Uploaded => ({ id: "", said: "", fault });

/** What the file chooser offers. */
export const ACCEPTED =
  "video/mp4,video/quicktime,video/webm,.mp4,.m4v,.mov,.webm,.mkv,.zip,image/gif,image/png,image/jpeg,image/webp";

/** Uploads a clip with progress 0..1. XMLHttpRequest, as fetch tells no progress. */
export function uploadClip(id: string, file: File, onProgress: (part: number) => void): Promise<Uploaded> {
  const form = new FormData();
  form.append("id", id);
  form.append("file", file, file.name);
  return send("/api/clips", id, form, onProgress);
}

/** Uploads pictures as one clip of so many a second. */
export function uploadPictures(
  id: string,
  name: string,
  files: File[],
  rate: number,
  onProgress: (part: number) => void,
): Promise<Uploaded> {
  const form = new FormData();
  for (const file of files) form.append("file", file, file.name);
  const told = new URLSearchParams({ id, name, rate: String(rate) });
  return send(`/api/clips/pictures?${told}`, id, form, onProgress);
}

function send(
  path: string,
  id: string,
  form: FormData,
  onProgress: (part: number) => void,
): Promise<Uploaded> {
  return new Promise((resolve) => {
    const request = new XMLHttpRequest();
    request.open("POST", path);
    request.setRequestHeader("x-person", personKey);
    request.setRequestHeader("x-person-name", encodeURIComponent(personName()));
    request.upload.onprogress = (event) => event.lengthComputable && onProgress(event.loaded / event.total);
    request.upload.onload = () => onProgress(1);
    request.onerror = () => resolve(failed(offline()));
    request.onload = () => {
      let told: Record<string, string> = {};
      try {
        told = JSON.parse(request.responseText);
      } catch {
        // Not our server's own answer; its status says enough.
      }
      if (request.status < 300) return resolve({ id: told.id ?? id, said: told.said ?? "", fault: null });
      const what = told.what ?? `The server answered ${request.status}.`;
      resolve(failed({ what, where: told.where ?? "", repair: told.repair ?? "", status: request.status }));
    };
    request.send(form);
  });
}
