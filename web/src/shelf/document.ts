import type { ProductField } from "../api/client";

/** A product as it is being written: what could not be read yet stands in it as typed. */
export type Written = { [field: string]: unknown };

/** One field changed; a number that is sourced keeps its source, or begins with the data sheet's. */
export function withField(written: Written, field: ProductField, value: unknown): Written {
  const next = { ...written, [field.name]: value };
  if (!field.sourced) return next;
  const { [field.name]: source, ...sources } = (written.sources ?? {}) as Record<string, string>;
  return { ...next, sources: value == null ? sources : { ...sources, [field.name]: source ?? "data sheet" } };
}

/** A thing of which nothing has been written but what is usual. */
export function blank(fields: ProductField[]): Written {
  let written: Written = fields.some((field) => field.sourced) ? { sources: {} } : {};
  for (const field of fields) {
    if (field.takes === "things" || field.takes === "numbers" || field.takes === "choices") written[field.name] = [];
    else if (field.takes === "tick") written[field.name] = field.usual ?? false;
    else if (field.takes === "words" || field.takes === "long words") written[field.name] = field.usual ?? "";
    else if (field.usual != null) {
      written = withField(written, field, field.usual);
      if (field.sourced) (written.sources as Record<string, string>)[field.name] = "memory";
    } else if (field.takes === "choice" && field.required) written[field.name] = field.options[0];
    else written[field.name] = null;
  }
  return written;
}
