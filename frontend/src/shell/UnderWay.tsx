/** What the server works on for this page: how far it is, its place in line, and a way to stop it. */
import { useEffect, useState, useSyncExternalStore } from "react";
import { api } from "../api/client";
import { isOpen, works } from "../api/works";

const SHOWN_AFTER = 700; // ms: what is quick is not worth a word

const useOpenWorks = () => useSyncExternalStore(works.subscribe, works.all).filter(isOpen);

/** In the place of a picture that is still computed: what for, and how far that is. */
export function PictureUnderWay({ words }: { words: string }) {
  const work = useOpenWorks().find((one) => one.title.includes("stock"));
  return (
    <div className="model picture-under-way" role="status">
      <span>{work ? `${work.title}: ${work.place > 0 ? "waits" : work.stage}` : words}</span>
      <progress max={1} value={work?.share || undefined} aria-label={words} />
    </div>
  );
}

export function UnderWay() {
  const all = useOpenWorks();
  const any = all.length > 0;
  const [late, setLate] = useState(false);
  useEffect(() => {
    const wait = setTimeout(() => setLate(any), any ? SHOWN_AFTER : 0);
    return () => clearTimeout(wait);
  }, [any]);
  if (!late || !any) return null;
  return (
    <div className="under-way" role="status" aria-label="Under way">
      {all.map((work) => (
        <div key={work.id}>
          <span>
            <b>{work.title}</b> {work.place > 0 ? `waits, ${ordinal(work.place)} in line` : work.stage}
          </span>
          <progress max={1} value={work.share || undefined} aria-label={work.title} />
          <button type="button" className="act quiet" onClick={() => void api.stopWork(work.id)}>
            Stop
          </button>
        </div>
      ))}
    </div>
  );
}

function ordinal(n: number): string {
  return `${n}${n === 1 ? "st" : n === 2 ? "nd" : n === 3 ? "rd" : "th"}`;
}
