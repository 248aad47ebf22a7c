/** A part of a load in a program of its own: one setup, one piece, one side. The plan stays as it is. */
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type PartOfLoad as Part, type SetupProgramView } from "../../api/client";
import { Choice } from "../../shell/Choice";
import { FileLink } from "../../shell/FileLink";
import { clock } from "../../shell/numbers";
import { useDesk } from "../../shell/plan";

const ALL = "";

export function PartOfLoad({ program }: { program: SetupProgramView }) {
  const { plan } = useDesk();
  const [setup, setSetup] = useState(ALL);
  const [piece, setPiece] = useState(ALL);
  const [side, setSide] = useState(ALL);
  const laid = useQuery({
    queryKey: ["layout", plan.plan_id, plan.edition],
    queryFn: () => api.layout(plan.plan_id),
    placeholderData: keepPreviousData,
  });
  const load = laid.data?.find((one) => one.setups.some((kind) => kind.setup === program.setup));
  const pieces = load?.pieces ?? [];
  const sides = [...new Set(pieces.flatMap((one) => (one.side === null ? [] : [String(one.side)])))];
  const part: Part = {
    ...(program.setups.includes(setup) ? { setups: [setup] } : {}),
    ...(pieces.some((one) => one.id === piece) ? { pieces: [piece] } : {}),
    ...(sides.includes(side) ? { sides: [Number(side)] } : {}),
  };
  const chosen = Object.keys(part).length > 0;
  const found = useQuery({
    queryKey: ["part", plan.plan_id, plan.edition, program.setup, part],
    queryFn: () => api.partOfLoad(plan.plan_id, program.setup, part),
    enabled: chosen,
    retry: false,
  });
  if (pieces.length < 2) return null;
  return (
    <>
      <h2>
        A part of the load <span>in a program of its own; the plan stays</span>
      </h2>
      <div className="fields">
        {program.setups.length > 1 && (
          <Choice
            label="Setup"
            values={[ALL, ...program.setups]}
            words={worded(program.setups, "both of them")}
            value={setup}
            onChoose={setSetup}
          />
        )}
        <Choice
          label="Piece"
          values={[ALL, ...pieces.map((one) => one.id)]}
          words={worded(
            pieces.map((one) => one.id),
            "all of them",
          )}
          value={piece}
          onChoose={setPiece}
        />
        {sides.length > 0 && (
          <Choice
            label="Side"
            values={[ALL, ...sides]}
            words={{ ...Object.fromEntries(sides.map((one) => [one, `${one}°`])), [ALL]: "all of them" }}
            value={side}
            onChoose={setSide}
          />
        )}
      </div>
      {found.error && <p className="debit">{found.error.message}</p>}
      {chosen && found.data && (
        <p>
          {found.data.files.map((file, k) => (
            <FileLink key={file} href={api.partFile(plan.plan_id, program.setup, part, k + 1)}>
              Program {file}
            </FileLink>
          ))}{" "}
          {found.data.words}: {clock(found.data.total)} on the simulated machine
          {found.data.troubles.length > 0 && <span className="debit">, {found.data.troubles[0]?.title}</span>}
        </p>
      )}
    </>
  );
}

function worded(values: string[], all: string): Record<string, string> {
  return { ...Object.fromEntries(values.map((one) => [one, one])), [ALL]: all };
}
