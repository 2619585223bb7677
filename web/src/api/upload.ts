import { type Fault, offline } from "./client";
import { personKey, personName } from "./person";

/** Uploads a video with progress 0..1; resolves to what was wrong, or null. XMLHttpRequest, as fetch tells no progress. */
export function uploadClip(
  id: string,
  file: File,
  onProgress: (part: number) => void,
): Promise<Fault | null> {
  return new Promise((resolve) => {
    const form = new FormData();
    form.append("id", id);
    form.append("file", file, file.name);
    const request = new XMLHttpRequest();
    request.open("POST", "/api/clips");
    request.setRequestHeader("x-person", personKey);
    request.setRequestHeader("x-person-name", encodeURIComponent(personName()));
    request.upload.onprogress = (event) => event.lengthComputable && onProgress(event.loaded / event.total);
    request.upload.onload = () => onProgress(1);
    request.onerror = () => resolve(offline());
    request.onload = () => {
      if (request.status < 300) return resolve(null);
      try {
        resolve({ ...JSON.parse(request.responseText), status: request.status });
      } catch {
        resolve({
          what: `The server answered ${request.status}.`,
          where: "",
          repair: "",
          status: request.status,
        });
      }
    };
    request.send(form);
  });
}
