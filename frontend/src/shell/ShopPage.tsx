/** The frame of what belongs to the shop and not to one plan: the name, where one is, the ways to the others. */
import { useEffect, type ReactNode } from "react";
import { Link, useLocation } from "react-router";

const PLACES = [
  ["/", "Jobs"],
  ["/quotes", "Quotes"],
  ["/capacity", "Capacity"],
  ["/floor", "Floor"],
  ["/tools", "Tools and cutting data"],
] as const;

export function ShopWays() {
  const here = useLocation().pathname;
  return (
    <nav aria-label="The shop" className="shop-ways">
      {PLACES.map(([to, words]) => (
        <Link
          key={to}
          to={to}
          className="act quiet"
          aria-current={here === to || (to !== "/" && here.startsWith(`${to}/`)) ? "page" : undefined}
        >
          {words}
        </Link>
      ))}
    </nav>
  );
}

type Props = { title: string; more?: ReactNode; sheet?: string; children: ReactNode };

export function ShopPage({ title, more, sheet = "jobs-sheet", children }: Props) {
  useEffect(() => {
    document.title = `${title} · Lean Ledger`;
  }, [title]);
  return (
    <div className="jobs-page">
      <header className="heading">
        <Link className="wordmark" to="/" title="All jobs">
          Lean <i>Ledger</i>
        </Link>
        <h1>
          {title} {more && <small>{more}</small>}
        </h1>
        <div className="tools">
          <ShopWays />
        </div>
      </header>
      <main className={sheet}>{children}</main>
    </div>
  );
}
