/** A row of tabs over one panel; arrows go from one to the next. */
import type { ReactNode } from "react";

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
      <div className="tabs" role="tablist" aria-label={label}>
        {tabs.map(({ id, words }, i) => (
          <button
            key={id}
            type="button"
            role="tab"
            id={`tab-${id}`}
            aria-controls={panel}
            aria-selected={id === shown}
            tabIndex={id === shown ? 0 : -1}
            onClick={() => onShow(id)}
            onKeyDown={(event) => {
              const step = event.key === "ArrowRight" ? 1 : event.key === "ArrowLeft" ? -1 : 0;
              const next = tabs[i + step];
              if (step && next) {
                onShow(next.id);
                document.getElementById(`tab-${next.id}`)?.focus();
              }
            }}
          >
            {words}
          </button>
        ))}
      </div>
    </div>
  );
}
