/** A row of tabs over one panel; arrows go from one to the next. */
import type { ReactNode } from "react";
import { Nav, Tab as Tabbed } from "react-bootstrap";

export type Tab = { id: string; words: ReactNode };

export function Tabs(props: {
  label: string;
  tabs: Tab[];
  shown: string;
  panel: string;
  onShow: (id: string) => void;
}) {
  const { label, tabs, shown, panel, onShow } = props;
  return (
    <div className="tabs-row">
      <Tabbed.Container activeKey={shown} onSelect={(id) => id !== null && onShow(id)}>
        <Nav bsPrefix="tabs" role="tablist" aria-label={label}>
          {tabs.map(({ id, words }) => (
            <Nav.Link
              key={id}
              bsPrefix="tab"
              as="button"
              type="button"
              eventKey={id}
              id={`tab-${id}`}
              aria-controls={panel}
            >
              {words}
            </Nav.Link>
          ))}
        </Nav>
      </Tabbed.Container>
    </div>
  );
}
