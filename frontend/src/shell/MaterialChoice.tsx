/** The plan's material; changing it changes cutting data, times and price. */
import { Form } from "react-bootstrap";
import { useQuery } from "@tanstack/react-query";
import { api } from "../api/client";
import { useDesk } from "./plan";

export function MaterialChoice() {
  const { plan, change } = useDesk();
  const library = useQuery({ queryKey: ["library"], queryFn: api.library });
  return (
    <Form.Select
      bsPrefix="choice"
      aria-label="Material"
      value={plan.material}
      onChange={(event) => void change({ change: "set-material", material: event.target.value })}
    >
      {library.data?.materials.map((one) => (
        <option key={one.id} value={one.id}>
          {one.name}
        </option>
      )) ?? <option value={plan.material}>{plan.material_name}</option>}
    </Form.Select>
  );
}
