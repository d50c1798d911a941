import { useId } from "react";
import type { ProductField } from "../api/client";
import { plain, readNumber } from "../format";
import { Button } from "../ui/Button";
import { useFault, useForm } from "../ui/form";
import { TextField } from "../ui/TextField";
import { Tick } from "../ui/Tick";
import { blank, type Written, withField } from "./document";
import { ProductNumber } from "./ProductNumber";

interface Props {
  fields: ProductField[];
  written: Written;
  /** The path of what holds these fields, ending in a point, or nothing. */
  under?: string;
  sources: string[];
  onChange: (change: (before: Written) => Written) => void;
}

/** The fields of a product, or of a thing inside it, as its kind says. */
export function ProductFields({ fields, written, under = "", sources, onChange }: Props) {
  return (
    <div className="grid items-start gap-x-5 gap-y-2.5 sm:grid-cols-2">
      {fields.map((field) => (
        <Field
          key={field.name}
          field={field}
          path={under + field.name}
          written={written}
          sources={sources}
          onChange={onChange}
        />
      ))}
    </div>
  );
}

function Field({
  field,
  path,
  written,
  sources,
  onChange,
}: Omit<Props, "fields" | "under"> & { field: ProductField; path: string }) {
  const value = written[field.name];
  const { forget } = useForm();
  const change = <T,>(next: (old: T) => T) => {
    forget?.(path);
    onChange((before) => withField(before, field, next(before[field.name] as T)));
  };
  const set = (next: unknown) => change(() => next);
  switch (field.takes) {
    case "number":
      return (
        <ProductNumber
          field={field}
          path={path}
          value={value}
          source={(written.sources as Record<string, string> | undefined)?.[field.name]}
          sources={sources}
          onChange={set}
          onSource={(source) =>
            onChange((before) => ({ ...before, sources: { ...(before.sources as object), [field.name]: source } }))
          }
        />
      );
    case "numbers":
      return <Numbers field={field} path={path} value={(value as unknown[]) ?? []} onChange={set} />;
    case "tick":
      return (
        <div className="pt-5">
          <Tick label={upper(field.label)} path={path} checked={value === true} onChange={set} />
        </div>
      );
    case "choice":
      return <OneOf field={field} path={path} value={(value as string) ?? ""} onChange={set} />;
    case "choices":
      return <Several field={field} path={path} value={(value as string[]) ?? []} onChange={set} />;
    case "thing":
      return <Thing field={field} path={path} written={value as Written | null} sources={sources} onChange={change} />;
    case "things":
      return (
        <Things field={field} path={path} value={(value as Written[]) ?? []} sources={sources} onChange={change} />
      );
    default:
      return (
        <div className={field.takes === "long words" ? "sm:col-span-2" : ""}>
          <TextField label={upper(label(field))} path={path} value={(value as string) ?? ""} onCommit={set} />
        </div>
      );
  }
}

const upper = (words: string) => words.slice(0, 1).toUpperCase() + words.slice(1);
const label = (field: ProductField) => (field.hint ? `${field.label} · ${field.hint}` : field.label);

function OneOf({
  field,
  path,
  value,
  onChange,
}: {
  field: ProductField;
  path: string;
  value: string;
  onChange: (value: string | null) => void;
}) {
  const id = useId();
  const fault = useFault(path);
  return (
    <div data-path={path}>
      <label htmlFor={id} className="lab mb-1 block first-letter:uppercase">
        {label(field)}
      </label>
      <select
        id={id}
        value={value}
        onChange={(event) => onChange(event.target.value || null)}
        className={`min-h-11 w-full rounded-(--radius) border bg-sheet px-2 text-[0.9375rem] hover:border-ink ${fault ? "border-stop" : "border-rule"}`}
      >
        {!value && <option value="">choose</option>}
        {field.options.map((option) => (
          <option key={option}>{option}</option>
        ))}
      </select>
      {fault && <p className="mt-0.5 text-[0.7969rem] text-stop">{fault.message}</p>}
    </div>
  );
}

function Several({
  field,
  path,
  value,
  onChange,
}: {
  field: ProductField;
  path: string;
  value: string[];
  onChange: (value: string[]) => void;
}) {
  const fault = useFault(path);
  return (
    <fieldset data-path={path}>
      <legend className="lab mb-1 first-letter:uppercase">{field.label}</legend>
      <div className="flex gap-5">
        {field.options.map((option) => (
          <Tick
            key={option}
            label={option}
            checked={value.includes(option)}
            onChange={(on) => onChange(on ? [...value, option] : value.filter((other) => other !== option))}
          />
        ))}
      </div>
      {fault && <p className="mt-0.5 text-[0.7969rem] text-stop">{fault.message}</p>}
    </fieldset>
  );
}

/** Some numbers of one kind, such as the sizes a tin is sold in. */
function Numbers({
  field,
  path,
  value,
  onChange,
}: {
  field: ProductField;
  path: string;
  value: unknown[];
  onChange: (value: unknown[]) => void;
}) {
  const form = useForm();
  const fault = value.map((_, at) => form.fault(`${path}.${at}`)).find((found) => found) ?? form.fault(path);
  return (
    <fieldset data-path={path}>
      <legend className="lab mb-1 first-letter:uppercase">
        {field.label}, {field.unit}
      </legend>
      <div className="flex flex-wrap gap-1.5">
        {value.map((each, at) => (
          <input
            // biome-ignore lint/suspicious/noArrayIndexKey: a size has no name but its place
            key={at}
            aria-label={`${field.label} ${at + 1}`}
            inputMode="decimal"
            defaultValue={typeof each === "number" ? plain(each) : String(each ?? "")}
            onBlur={(event) => {
              const next = readNumber(event.target.value);
              onChange(next === null ? value.filter((_, other) => other !== at) : value.with(at, next));
            }}
            className="field fig w-20 text-[1rem]"
          />
        ))}
        <Button edits className="min-h-11" onClick={() => onChange([...value, ""])}>
          a size
        </Button>
      </div>
      {fault && <p className="mt-0.5 text-[0.7969rem] text-stop">{fault.message}</p>}
    </fieldset>
  );
}

/** A thing inside a product, with fields of its own: there or not. */
function Thing({
  field,
  path,
  written,
  sources,
  onChange,
}: {
  field: ProductField;
  path: string;
  written: Written | null;
  sources: string[];
  onChange: (change: (old: Written | null) => Written | null) => void;
}) {
  if (!written)
    return (
      <div className="sm:col-span-2">
        <Button edits className="min-h-11" onClick={() => onChange(() => blank(field.fields))}>
          Add its {field.label}
        </Button>
      </div>
    );
  return (
    <Boxed title={field.label} onRemove={() => onChange(() => null)}>
      <ProductFields
        fields={field.fields}
        written={written}
        under={`${path}.`}
        sources={sources}
        onChange={(change) => onChange((old) => change(old ?? written))}
      />
    </Boxed>
  );
}

function Things({
  field,
  path,
  value,
  sources,
  onChange,
}: {
  field: ProductField;
  path: string;
  value: Written[];
  sources: string[];
  onChange: (change: (old: Written[]) => Written[]) => void;
}) {
  const fault = useFault(path);
  const one = field.label.replace(/s$/, "");
  return (
    <div className="space-y-3 sm:col-span-2" data-path={path}>
      {value.map((each, at) => (
        <Boxed
          // biome-ignore lint/suspicious/noArrayIndexKey: a new one has no name yet
          key={at}
          title={`${one} ${at + 1}${each.name ? `: ${each.name}` : ""}`}
          onRemove={() => onChange((old) => old.filter((_, other) => other !== at))}
        >
          <ProductFields
            fields={field.fields}
            written={each}
            under={`${path}.${at}.`}
            sources={sources}
            onChange={(change) => onChange((old) => old.with(at, change(old[at] ?? each)))}
          />
        </Boxed>
      ))}
      <Button edits className="min-h-11" onClick={() => onChange((old) => [...old, blank(field.fields)])}>
        Add a {one}
      </Button>
      {fault && <p className="text-[0.7969rem] text-stop">{fault.message}</p>}
    </div>
  );
}

function Boxed({ title, onRemove, children }: { title: string; onRemove: () => void; children: React.ReactNode }) {
  return (
    <section className="border-l-2 border-ink pt-0.5 pl-3 sm:col-span-2">
      <div className="mb-1.5 flex items-baseline justify-between gap-3">
        <h3 className="font-semibold first-letter:uppercase">{title}</h3>
        <Button edits look="text" onClick={onRemove}>
          remove
        </Button>
      </div>
      {children}
    </section>
  );
}
