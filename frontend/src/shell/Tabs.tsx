/** A row of tabs over one panel; arrows go from one to the next. */
import { useEffect, useRef, type ReactNode } from "react";
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
  const list = useRef<HTMLDivElement>(null);
  // what is shown may follow the address, a moment after the key: the focus goes along
  useEffect(() => {
    if (list.current?.contains(document.activeElement)) document.getElementById(`tab-${shown}`)?.focus();
  }, [shown]);
  return (
    <div className="tabs-row">
      <Tabbed.Container
        activeKey={shown}
        onSelect={(id) => id !== null && onShow(id)}
        generateChildId={(id, type) => (type === "tab" ? `tab-${id}` : panel)}
      >
        <Nav ref={list} bsPrefix="tabs" role="tablist" aria-label={label}>
          {tabs.map(({ id, words }) => (
            <Nav.Link key={id} bsPrefix="tab" as="button" type="button" eventKey={id}>
              {words}
            </Nav.Link>
          ))}
        </Nav>
      </Tabbed.Container>
    </div>
  );
}
