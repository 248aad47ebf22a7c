/** Which tools stand set up in each machine: they need no setting, so the rules take them first. */
import { Form } from "react-bootstrap";
import type { BroughtView, ShelfView } from "../../api/client";
import { api } from "../../api/client";

export function Magazines(props: {
  shelf: ShelfView;
  looked: string;
  make: (what: () => Promise<BroughtView | ShelfView>) => Promise<void>;
}) {
  const { shelf, looked, make } = props;
  const rows = new Map(shelf.tools.map(({ row }) => [row.ID, row]));
  const words = (id: string) => rows.get(id)?.DESCRIPTION ?? id;
  const shown = (id: string) => words(id).toLowerCase().includes(looked.toLowerCase());
  return (
    <div className="scroll" tabIndex={0} role="region" aria-label="Tools in the machines">
      <p className="soft">
        What stands in a machine whatever job comes next. A plan pays for setting up only the others, and the
        rules take one of these where another does not gain more than its setting up costs.
      </p>
      {shelf.magazines.map((one) => (
        <section key={one.machine} className="magazine" aria-label={one.name}>
          <h2>
            {one.name}{" "}
            <small>
              {one.tools.length} of {one.pockets} {one.places}
            </small>
          </h2>
          <ul>
            {one.tools.filter(shown).map((id) => (
              <li key={id}>
                <span className="soft">{rows.get(id)?.NUMBER}</span> {words(id)}{" "}
                <button
                  type="button"
                  className="act quiet"
                  aria-label={`Take ${words(id)} out of ${one.name}`}
                  onClick={() =>
                    void make(() =>
                      api.changeMagazine(
                        one.machine,
                        one.tools.filter((other) => other !== id),
                      ),
                    )
                  }
                >
                  ×
                </button>
              </li>
            ))}
          </ul>
          <Form.Select
            bsPrefix="choice"
            aria-label={`Put a tool into ${one.name}`}
            value=""
            onChange={(event) =>
              void make(() => api.changeMagazine(one.machine, [...one.tools, event.target.value]))
            }
          >
            <option value="">Put in …</option>
            {one.others.filter(shown).map((id) => (
              <option key={id} value={id}>
                {rows.get(id)?.NUMBER} {words(id)}
              </option>
            ))}
          </Form.Select>{" "}
          {one.own && (
            <button
              type="button"
              className="act quiet"
              onClick={() => void make(() => api.dropOwn("magazine", one.machine))}
            >
              Back to what ships
            </button>
          )}
        </section>
      ))}
    </div>
  );
}
