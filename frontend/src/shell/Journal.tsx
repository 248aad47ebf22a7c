/** The plan's history: each decision with what it did, and the way back to it. */
import { useState } from "react";
import { Offcanvas } from "react-bootstrap";
import { author, setAuthor } from "../api/client";
import { useDesk } from "./plan";
import { EffectWords } from "./Strip";

export function Journal({ show, onClose }: { show: boolean; onClose: () => void }) {
  const { plan, goTo } = useDesk();
  const [name, setName] = useState(author());
  return (
    <Offcanvas
      show={show}
      onHide={onClose}
      placement="end"
      scroll
      backdrop={false}
      aria-labelledby="journal-title"
      className="journal"
    >
      <Offcanvas.Header closeButton>
        <Offcanvas.Title id="journal-title">Journal</Offcanvas.Title>
      </Offcanvas.Header>
      <Offcanvas.Body>
        <label className="signed">
          You sign as{" "}
          <input
            value={name}
            placeholder="planner"
            maxLength={60}
            onChange={(event) => {
              setName(event.target.value);
              setAuthor(event.target.value);
            }}
          />
        </label>
        <ol className="lines" reversed>
          {[...plan.journal].reverse().map((line) => (
            <li key={line.seq} className={line.current ? "current" : line.ahead ? "ahead" : undefined}>
              <button
                type="button"
                onClick={() => goTo(line.seq)}
                disabled={line.current}
                aria-current={line.current ? "step" : undefined}
                title={line.current ? "The plan as it stands" : "Go back to this"}
              >
                <span className="when">
                  {line.seq} · {line.at.slice(0, 10)} {line.at.slice(11, 16)} · {line.author}
                  {line.current ? " · now" : line.ahead ? " · undone" : ""}
                </span>
                <span className="words">{line.words}</span>
                {line.parent !== null && (
                  <span className="effect">
                    <EffectWords effect={line.effect} />
                  </span>
                )}
              </button>
            </li>
          ))}
        </ol>
      </Offcanvas.Body>
    </Offcanvas>
  );
}
