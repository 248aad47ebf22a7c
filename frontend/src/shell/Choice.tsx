/** A labelled choice among a few values, each with its words. */
import { Form } from "react-bootstrap";
import { among } from "../api/changes";

export function Choice<T extends string>(props: {
  label: string;
  values: readonly T[];
  words: Record<T, string>;
  value: T;
  wide?: boolean;
  onChoose: (value: T) => void;
}) {
  const { label, values, words, value, wide, onChoose } = props;
  return (
    <label className={wide ? "wide" : undefined}>
      {label}
      <Form.Select
        bsPrefix="choice"
        value={value}
        onChange={(event) => {
          const chosen = among(values, event.target.value);
          if (chosen !== undefined) onChoose(chosen);
        }}
      >
        {values.map((one) => (
          <option key={one} value={one}>
            {words[one]}
          </option>
        ))}
      </Form.Select>
    </label>
  );
}
