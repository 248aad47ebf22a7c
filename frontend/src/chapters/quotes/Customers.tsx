/** Customers and what is agreed with them: empty fields are the shop's own terms. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Table } from "react-bootstrap";
import { business, type CustomerBody } from "../../api/business";
import type { Schemas } from "../../api/types";
import { fixed } from "../../shell/numbers";
import { WordsCell } from "../../shell/WordsCell";

const NEW: CustomerBody = {
  name: "", address: [], contact: "", currency: "", payment: "", delivery: "", discount: "0", note: "",
}; // prettier-ignore

export function Customers() {
  const queries = useQueryClient();
  const found = useQuery({ queryKey: ["customers"], queryFn: business.customers });
  const terms = useQuery({ queryKey: ["terms"], queryFn: business.terms });
  const [told, setTold] = useState("");
  async function keep(id: number | null, body: CustomerBody) {
    setTold("");
    try {
      queries.setQueryData(["customers"], await business.keepCustomer(id, body));
    } catch (error) {
      setTold((error as Error).message);
    }
  }
  const shop = terms.data;
  return (
    <>
      {told && (
        <p className="finding" role="alert">
          {told}
        </p>
      )}
      <Table bsPrefix="ledger-table" className="customers-table">
        <thead>
          <tr>
            <th>Customer</th>
            <th>Address, a line each</th>
            <th>For the attention of</th>
            <th>Currency</th>
            <th>Payment</th>
            <th>Delivery</th>
            <th className="n">discount %</th>
            <th>Note for the shop</th>
          </tr>
        </thead>
        <tbody>
          {found.data?.customers.map((one) => (
            <Customer key={one.id} one={one} shop={shop} onKeep={(body) => void keep(one.id, body)} />
          ))}
          <tr>
            <td>
              <WordsCell
                label="New customer"
                value=""
                otherwise="a new one’s name"
                onCommit={(name) => void keep(null, { ...NEW, name })}
              />
            </td>
            <td colSpan={7} className="soft">
              what is left empty is as the shop’s terms have it
            </td>
          </tr>
        </tbody>
      </Table>
    </>
  );
}

type Props = {
  one: Schemas["CustomerView"];
  shop: Schemas["TermsBody"] | undefined;
  onKeep: (body: CustomerBody) => void;
};

function Customer({ one, shop, onKeep }: Props) {
  const put = (more: Partial<CustomerBody>) => onKeep({ ...one, ...more });
  const name = one.name;
  const currencies = shop ? [shop.currency, ...shop.rates.map(([code]) => code)] : [];
  return (
    <tr>
      <td>
        <WordsCell label={`Name of ${name}`} value={one.name} onCommit={(words) => put({ name: words })} />
      </td>
      <td>
        <WordsCell
          label={`Address of ${name}`}
          value={one.address.join("\n")}
          lines={2}
          longest={700}
          onCommit={(words) => put({ address: words.split("\n") })}
        />
      </td>
      <td>
        <WordsCell
          label={`Contact of ${name}`}
          value={one.contact}
          onCommit={(contact) => put({ contact })}
        />
      </td>
      <td>
        <select
          aria-label={`Currency of ${name}`}
          value={one.currency}
          onChange={(event) => put({ currency: event.target.value })}
        >
          <option value="">{shop?.currency ?? "the shop’s"}</option>
          {currencies.slice(1).map((code) => (
            <option key={code}>{code}</option>
          ))}
        </select>
      </td>
      <td>
        <WordsCell
          label={`Payment of ${name}`}
          value={one.payment}
          otherwise={shop?.payment}
          onCommit={(payment) => put({ payment })}
        />
      </td>
      <td>
        <WordsCell
          label={`Delivery of ${name}`}
          value={one.delivery}
          otherwise={shop?.delivery}
          onCommit={(delivery) => put({ delivery })}
        />
      </td>
      <td className="n">
        <WordsCell
          label={`Discount of ${name}, percent`}
          value={Number(one.discount) === 0 ? "" : fixed(100 * Number(one.discount), 1)}
          otherwise="0"
          onCommit={(words) => put({ discount: percent(words) })}
        />
      </td>
      <td>
        <WordsCell
          label={`Note of ${name}`}
          value={one.note}
          longest={600}
          onCommit={(note) => put({ note })}
        />
      </td>
    </tr>
  );
}

/** “5” and “5 %” are 0.05; what is no number is sent as it is, and refused with its reason. */
function percent(words: string): string {
  const text = words.replace("%", "").replace(",", ".").trim();
  if (text === "") return "0";
  return Number.isFinite(Number(text)) ? (Number(text) / 100).toFixed(4) : words;
}
