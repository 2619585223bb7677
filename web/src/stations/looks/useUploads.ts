import { useState } from "react";
import type { Fault } from "../../api/client";
import { newId } from "../../api/person";
import { refreshShow } from "../../api/show";
import { uploadClip, uploadPictures } from "../../api/upload";

export interface Uploads {
  /** 0..1 of the file that is on its way; null where none is. */
  progress: number | null;
  name: string;
  fault: Fault | null;
  said: string;
  /** Uploads files one after another; resolves to the ids of the clips that hold them. */
  take: (files: FileList | File[] | null | undefined) => Promise<string[]>;
  /** Uploads pictures as one clip of so many a second. */
  takeFolder: (files: File[], rate: number) => Promise<string[]>;
}

/** Uploading clips, with progress and what was wrong. */
export function useUploads(): Uploads {
  const [progress, setProgress] = useState<number | null>(null);
  const [name, setName] = useState("");
  const [fault, setFault] = useState<Fault | null>(null);
  const [said, setSaid] = useState("");
  const take = async (files: FileList | File[] | null | undefined) => {
    const ids: string[] = [];
    setFault(null);
    setSaid("");
    for (const file of files ?? []) {
      setName(file.name);
      setProgress(0);
      const done = await uploadClip(newId(), file, setProgress);
      if (done.fault) setFault(done.fault);
      else ids.push(done.id);
      if (done.said) setSaid(done.said);
    }
    setProgress(null);
    await refreshShow();
    return ids;
  };
  const takeFolder = async (files: File[], rate: number) => {
    const pictures = files.filter((file) => file.type.startsWith("image/"));
    const folder = pictures[0]?.webkitRelativePath.split("/")[0] || pictures[0]?.name || "Pictures";
    setFault(null);
    setSaid("");
    setName(folder);
    setProgress(0);
    const done = await uploadPictures(newId(), folder, pictures, rate, setProgress);
    setFault(done.fault);
    setSaid(done.said);
    setProgress(null);
    await refreshShow();
    return done.fault ? [] : [done.id];
  };
  return { progress, name, fault, said, take, takeFolder };
}
