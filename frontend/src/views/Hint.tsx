/** Words that come up beside what the pointer or the focus is on. */
import type { ReactElement } from "react";
import { OverlayTrigger, Tooltip } from "react-bootstrap";

export function Hint({ words, children }: { words: string; children: ReactElement }) {
  if (!words) return children;
  return (
    <OverlayTrigger placement="top" delay={300} overlay={(props) => <Tooltip {...props}>{words}</Tooltip>}>
      {children}
    </OverlayTrigger>
  );
}
