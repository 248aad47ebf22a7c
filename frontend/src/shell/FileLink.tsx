/** A link to what is issued from the plan; nothing is, before its stock is followed. */
import type { ReactNode } from "react";
import { useDesk } from "./plan";

const LATER = "issued once the stock is followed";

export function FileLink({ href, main, shown, children }: FileLinkProps) {
  const { plan } = useDesk();
  const look = main ? "act main" : "act";
  // it can be come to by keyboard and says why it does nothing yet
  if (!plan.stock_followed)
    return (
      <button type="button" className={look} aria-disabled="true" title={LATER}>
        {children}
      </button>
    );
  return (
    <a className={look} href={href} {...(shown ? { target: "_blank", rel: "noreferrer" } : {})}>
      {children}
    </a>
  );
}

type FileLinkProps = {
  href: string;
  main?: boolean;
  /** in a page of its own, where others are saved */
  shown?: boolean;
  children: ReactNode;
};
