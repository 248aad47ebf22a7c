/** The shop's tools, holders and cutting data: looked through, changed, brought in and taken out as files. */
import { Form } from "react-bootstrap";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState, type ReactNode } from "react";
import { useSearchParams } from "react-router";
import { api, type BroughtView, type ShelfView } from "../../api/client";
import { ShopPage } from "../../shell/ShopPage";
import { shortened } from "../../shell/words";
import { Tabs } from "../../shell/Tabs";
import { Calculator } from "./Calculator";
import { Magazines } from "./Magazines";
import { Making } from "./Making";
import { CuttingTable, HolderTable, ToolTable } from "./Shelf";

const HOLDERS = "holders";
const CUTTING = "cutting";
const MAKING = "making";
const INSIDE = "machines";

const ALONE = [HOLDERS, CUTTING, INSIDE, MAKING];

export const kindWords = (kind: string) => kind.replace("t_slot", "T-slot").replaceAll("_", " ");

type Told = { words: string; refused: boolean };

export function ToolsPage() {
  const queries = useQueryClient();
  const shelf = useQuery({ queryKey: ["shelf"], queryFn: api.shelf });
  const [address, setAddress] = useSearchParams();
  const [told, setTold] = useState<Told | null>(null);
  const [looked, setLooked] = useState("");
  const kinds = [...new Set(shelf.data?.tools.map((tool) => tool.row.KIND ?? "") ?? [])];
  const asked = address.get("show") ?? "";
  const shown = [...kinds, ...ALONE].includes(asked) ? asked : (kinds[0] ?? HOLDERS);
  const chosen = address.get("tool");
  const open = (values: Record<string, string>) => setAddress(values, { replace: true });

  /** Does something to the shelf; every plan is computed with it from then on. */
  async function make(what: () => Promise<BroughtView | ShelfView>) {
    try {
      const found = await what();
      const words =
        "brought" in found
          ? [`Taken: ${shortened(found.brought)}`, ...found.notes].join(". ")
          : "Kept. Every plan is computed with it.";
      setTold({ words, refused: false });
    } catch (error) {
      setTold({ words: (error as Error).message, refused: true });
    }
    await queries.invalidateQueries();
  }

  const tools =
    shelf.data?.tools.filter((tool) => tool.row.KIND === shown && matches(tool.row, looked)) ?? [];
  const tool = shelf.data?.tools.find((one) => one.row.ID === chosen) ?? tools[0];
  return (
    <ShopPage title="Tools and cutting data" sheet="tools-sheet">
      {shelf.error && <p className="finding">{shelf.error.message}</p>}
      {shelf.data && (
        <>
          <div className="shelf-actions">
            <span>
              <FileButton
                words="Bring in tools, CSV or JSON"
                onFile={(f) => void make(() => api.bringTools(f))}
              />
              <FileButton
                words="Bring in cutting data, CSV"
                onFile={(f) => void make(() => api.bringCutting(f))}
              />
            </span>
            <span>
              Take out: <FileLink name="tools.csv" /> <FileLink name="tools.json" />{" "}
              <FileLink name="cutting.csv" />
            </span>
            <label>
              Look for{" "}
              <Form.Control
                bsPrefix="entry"
                value={looked}
                onChange={(event) => setLooked(event.target.value)}
                placeholder="M6, Ø12 …"
              />
            </label>
          </div>
          {told && (
            <p className={told.refused ? "finding" : "soft"} role={told.refused ? "alert" : "status"}>
              {told.words}{" "}
              <button type="button" className="act quiet" onClick={() => setTold(null)}>
                Good
              </button>
            </p>
          )}
          {shelf.data.set_aside.map((row) => (
            <p key={`${row.what} ${row.key}`} className="finding" role="note">
              <b>{row.key}</b> ({row.what}) cannot be used and is set aside: {row.why}. What ships stands in
              its place.{" "}
              <button
                type="button"
                className="act"
                onClick={() => void make(() => api.dropOwn(row.what as "tool", row.key))}
              >
                Take it out
              </button>
            </p>
          ))}
          <Tabs
            label="What the shop has"
            shown={shown}
            panel="shelf-panel"
            onShow={(id) => open({ show: id })}
            tabs={[
              ...kinds.map((kind) => ({ id: kind, words: plural(kindWords(kind)) })),
              { id: HOLDERS, words: "Holders" },
              { id: CUTTING, words: "Cutting data" },
              { id: INSIDE, words: "In the machines" },
              { id: MAKING, words: "How features are made" },
            ]}
          />
          <div
            id="shelf-panel"
            role="tabpanel"
            aria-labelledby={`tab-${shown}`}
            className={ALONE.includes(shown) ? "shelf-alone" : "shelf-pair"}
          >
            {shown === HOLDERS && <HolderTable holders={shelf.data.holders} />}
            {shown === CUTTING && <CuttingTable shelf={shelf.data} looked={looked} make={make} />}
            {shown === INSIDE && <Magazines shelf={shelf.data} looked={looked} make={make} />}
            {shown === MAKING && <Making />}
            {!ALONE.includes(shown) && (
              <>
                <ToolTable
                  tools={tools}
                  holders={shelf.data.holders}
                  chosen={tool?.row.ID ?? ""}
                  onChoose={(id) => open({ show: shown, tool: id })}
                  make={make}
                />
                {tool && <Calculator key={tool.row.ID} tool={tool} shelf={shelf.data} />}
              </>
            )}
          </div>
        </>
      )}
      {shelf.isLoading && <p className="empty">Looking along the shelf …</p>}
    </ShopPage>
  );
}

/** Words are looked for in what a tool is called; one like Ø12 is its width. */
const matches = (row: Record<string, string>, looked: string) => {
  const called = [row.ID, row.DESCRIPTION, row.FAMILY, row.HOLDER].join(" ").toLowerCase();
  return looked
    .toLowerCase()
    .split(/\s+/)
    .every((word) =>
      word.startsWith("ø")
        ? [row.DC, row.DMIN, row.CW].includes(word.slice(1).replace(",", "."))
        : called.includes(word),
    );
};

const plural = (words: string) => {
  const capital = words.charAt(0).toUpperCase() + words.slice(1);
  return /(turning|grooving|threading)$/.test(words) ? capital : `${capital}s`;
};

function FileLink({ name }: { name: string }): ReactNode {
  return (
    <a className="act quiet" href={api.shelfFile(name)} download>
      {name}
    </a>
  );
}

function FileButton({ words, onFile }: { words: string; onFile: (file: File) => void }) {
  return (
    <label className="act file-button">
      {words}
      <input
        type="file"
        className="visually-hidden"
        accept=".csv,.json,.txt"
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) onFile(file);
          event.target.value = "";
        }}
      />
    </label>
  );
}
