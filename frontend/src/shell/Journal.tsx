/** The plan's history: each decision with what it did, and the way back to it. */
import { useInfiniteQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Form, Offcanvas } from "react-bootstrap";
import { api, author, setAuthor } from "../api/client";
import { useFork } from "./alternatives";
import { useDesk } from "./plan";
import { EffectWords } from "./Strip";

export function Journal({ show, onClose }: { show: boolean; onClose: () => void }) {
  const { plan, goTo } = useDesk();
  const [name, setName] = useState(author());
  const journal = useInfiniteQuery({
    queryKey: ["journal", plan.plan_id, plan.edition],
    queryFn: ({ pageParam }) => api.journal(plan.plan_id, pageParam),
    initialPageParam: undefined as number | undefined,
    getNextPageParam: (last) => (last.earlier ? last.lines[0]?.seq : undefined),
    enabled: show,
    placeholderData: (before) => before,
  });
  const lines = journal.data?.pages.flatMap((page) => [...page.lines].reverse()) ?? [];
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
          <Form.Control
            bsPrefix="entry"
            value={name}
            placeholder="planner"
            maxLength={60}
            onChange={(event) => {
              setName(event.target.value);
              setAuthor(event.target.value);
            }}
          />
        </label>
        {journal.error && <p className="debit">{journal.error.message}</p>}
        <ol className="lines" reversed>
          {lines.map((line) => (
            <li key={line.seq} className={line.current ? "current" : line.ahead ? "ahead" : undefined}>
              <button
                type="button"
                onClick={() => goTo(line.seq)}
                disabled={line.current}
                aria-current={line.current ? "step" : undefined}
                title={line.current ? "The plan as it stands" : "Go back to this"}
              >
                <span className="when">
                  {line.seq} · {when(line.at)} · {line.author}
                  {line.current ? " · now" : line.ahead ? " · undone" : ""}
                </span>
                <span className="words">{line.words}</span>
                {line.parent !== null && (
                  <span className="effect">
                    <EffectWords effect={line.effect} />
                  </span>
                )}
              </button>
              <ForkLine seq={line.seq} />
            </li>
          ))}
        </ol>
        {journal.hasNextPage && (
          <button
            type="button"
            className="act"
            disabled={journal.isFetchingNextPage}
            onClick={() => void journal.fetchNextPage()}
          >
            Earlier lines
          </button>
        )}
      </Offcanvas.Body>
    </Offcanvas>
  );
}

/** Another plan of the job that goes on from a line. */
function ForkLine({ seq }: { seq: number }) {
  const { plan } = useDesk();
  const fork = useFork();
  return (
    <button
      type="button"
      className="act quiet fork"
      disabled={fork.isPending}
      aria-label={`alternative from here, line ${seq}`}
      title={fork.error?.message ?? "Another plan of this job that goes on from here"}
      onClick={() => fork.mutate({ name: `${plan.plan_name}, from line ${seq}`.slice(0, 80), seq })}
    >
      {fork.error ? "refused" : "alternative from here"}
    </button>
  );
}

/** In the reader's own time: 2026-11-28 14:05. */
function when(at: string): string {
  const time = new Date(at);
  const two = (n: number) => String(n).padStart(2, "0");
  const day = `${time.getFullYear()}-${two(time.getMonth() + 1)}-${two(time.getDate())}`;
  return `${day} ${two(time.getHours())}:${two(time.getMinutes())}`;
}
