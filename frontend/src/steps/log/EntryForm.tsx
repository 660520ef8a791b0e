import { useQuery } from "@tanstack/react-query";
import { Gauge } from "lucide-react";
import { useState } from "react";
import { api, type Form, type LogWriting, type Problem } from "../../api/client";
import { useScreen } from "../../job/context";
import { orLast } from "../../ui/cabinet";
import { Labelled } from "../../ui/Labelled";
import { rightNow } from "../../ui/moment";
import { keep, newKey, recall } from "../../ui/storage";
import { PhotoFields, PlaceField } from "./PhotoFields";
import type { Outcome } from "./useLog";

const BY = "calm-basin.log-by";

type Field = Form["fields"][number];

/** The form of an entry: its kind, its fields, by whom and when. */
export function EntryForm({ onWrite }: { onWrite: (entry: LogWriting) => Promise<Outcome> }) {
  const { picked, pick, plan } = useScreen();
  const forms = useQuery({
    queryKey: ["log-forms"],
    queryFn: () => orLast("log-forms", api.logForms),
    staleTime: Infinity,
    networkMode: "always",
  });
  const [kind, setKind] = useState("hold");
  const [typed, setTyped] = useState<Record<string, string>>({});
  const [by, setBy] = useState(() => recall(BY) ?? "");
  const [at, setAt] = useState<string | null>(null);
  const [errors, setErrors] = useState<Record<string, string>>({});
  const [told, setTold] = useState("");
  const [photo, setPhoto] = useState<File | null>(null);
  const [located, setLocated] = useState(false);
  const written = forms.data?.forms.filter((one) => !one.step) ?? [];
  const form = written.find((one) => one.kind === kind);
  if (!form) return <p aria-busy>{forms.isError ? "The forms need a connection." : "Opening…"}</p>;

  async function readWith({ name, device, near }: Field) {
    try {
      const expected = /^[a-z]/.test(near) ? (typed[near] ?? "") : near;
      const { text } = await api.instrument(device, expected, plan.display);
      setTyped((old) => ({ ...old, [name]: text }));
      setErrors(({ [name]: _, ...others }) => others);
    } catch (problem) {
      setErrors((old) => ({ ...old, [name]: (problem as Problem).message }));
    }
  }

  async function add() {
    if (!form) return;
    const missing = form.fields
      .filter(
        (field) =>
          field.needed && field.type !== "photo" && !(typed[field.name] ?? usual(field)).trim(),
      )
      .map((field) => [field.name, `${field.label}: fill it in.`]);
    const hasPhoto = form.fields.some((field) => field.type === "photo");
    if (hasPhoto && !photo) missing.push(["photo", "Choose a picture."]);
    if (!by.trim()) missing.push(["by", "Who writes it? Type initials or a name."]);
    setErrors(Object.fromEntries(missing));
    setTold("");
    if (missing.length) return;
    keep(BY, by.trim());
    const place = picked ? picked.map((part) => part.toFixed(1)).join(" ") : "";
    const fields = Object.fromEntries(
      form.fields
        .filter((field) => field.type !== "photo")
        .map((field) => [
          field.name,
          field.type === "place" ? place : (typed[field.name] ?? usual(field)),
        ]),
    );
    const entry: LogWriting = { id: newKey(), kind, by: by.trim(), at: at ?? rightNow(), fields };
    if (hasPhoto && photo) Object.assign(entry, { photo, located });
    const outcome = await onWrite(entry);
    if ("refused" in outcome) {
      const found = outcome.refused.errors ?? [];
      setErrors(
        Object.fromEntries(found.map((error) => [error.path.split("/").at(-1), error.message])),
      );
      if (!found.length) setTold(outcome.refused.message);
      return;
    }
    setTyped({});
    setAt(null);
    setPhoto(null);
    setLocated(false);
    if (form.fields.some((field) => field.type === "place")) pick(null);
    setTold(outcome.done === "written" ? "Written." : "It waits for the connection.");
  }

  return (
    <fieldset className="space-y-2">
      <legend className="font-semibold mb-1">Write an entry</legend>
      <Labelled label="What it is">
        {(id) => (
          <select
            id={id}
            className="select w-full h-11 text-base"
            value={kind}
            onChange={(event) => {
              setKind(event.currentTarget.value);
              setTyped({});
              setErrors({});
              setTold("");
            }}
          >
            {written.map((one) => (
              <option key={one.kind} value={one.kind}>
                {one.title}
              </option>
            ))}
          </select>
        )}
      </Labelled>
      <p className="text-sm">{form.hint}</p>
      <div className="grid grid-cols-2 gap-2">
        {form.fields.map((field) => (
          <div key={field.name} className={isWide(field) ? "col-span-2" : ""}>
            {field.type === "photo" ? (
              <PhotoFields
                photo={photo}
                error={errors.photo}
                located={located}
                onPhoto={setPhoto}
                onLocated={setLocated}
              />
            ) : field.type === "place" ? (
              <PlaceField label={field.label} error={errors.place} />
            ) : (
              <TypedField
                field={field}
                value={typed[field.name] ?? usual(field)}
                error={errors[field.name]}
                onChange={(text) => setTyped({ ...typed, [field.name]: text })}
                onRead={field.device ? () => void readWith(field) : undefined}
              />
            )}
          </div>
        ))}
        <div className="col-span-2 grid grid-cols-[1fr_14rem] gap-2">
          <Labelled label="By" error={errors.by}>
            {(id, note) => (
              <input
                id={id}
                className={`input w-full h-11 text-lg px-2.5 ${errors.by ? "input-error" : ""}`}
                maxLength={40}
                value={by}
                aria-invalid={errors.by ? true : undefined}
                aria-describedby={note}
                onChange={(event) => setBy(event.currentTarget.value)}
              />
            )}
          </Labelled>
          <Labelled label="At" error={errors.at}>
            {(id) => (
              <input
                id={id}
                type="datetime-local"
                className="input w-full h-11 px-2.5"
                value={at ?? rightNow()}
                onChange={(event) => setAt(event.currentTarget.value.slice(0, 16) || null)}
              />
            )}
          </Labelled>
        </div>
      </div>
      <div className="flex items-center gap-3">
        <button type="button" className="btn btn-info h-12 px-5" onClick={() => void add()}>
          Add to the log
        </button>
        <span role="status">{told}</span>
      </div>
    </fieldset>
  );
}

const isWide = (field: Field) =>
  ["text", "long text", "yes or no", "choice", "photo", "place", "series"].includes(field.type);

/** What a choice stands at before anybody chose. */
const usual = (field: Field) => (field.type === "choice" ? (field.choices[0] ?? "") : "");

interface TypedProps {
  field: Field;
  value: string;
  error?: string;
  onChange: (text: string) => void;
  /** Read it with the instrument that may. */
  onRead?: () => void;
}

function TypedField({ field, value, error, onChange, onRead }: TypedProps) {
  const unit = field.unit && field.unit !== "number" ? `, ${field.unit}` : "";
  const spare = field.type === "long text" || field.unit === "number" ? " (if any)" : " (if read)";
  const label = `${field.label}${unit}${field.needed ? "" : spare}`;
  const options = field.type === "yes or no" ? ["yes", "no"] : field.choices;
  const ink = error ? "input-error" : "";
  if (options.length > 0)
    return (
      <Labelled label={label} error={error}>
        {(id) => (
          <div id={id} role="group" aria-label={label} className="flex flex-wrap gap-2">
            {options.map((option) => (
              <button
                key={option}
                type="button"
                aria-pressed={value === option}
                className={`btn h-11 px-4 font-medium ${value === option ? "btn-info" : ""}`}
                onClick={() => onChange(option)}
              >
                {option}
              </button>
            ))}
          </div>
        )}
      </Labelled>
    );
  return (
    <Labelled label={label} error={error}>
      {(id, note) =>
        field.type === "long text" || field.type === "series" ? (
          <textarea
            id={id}
            rows={2}
            className={`textarea w-full text-base ${error ? "textarea-error" : ""}`}
            maxLength={2000}
            value={value}
            aria-describedby={note}
            onChange={(event) => onChange(event.currentTarget.value)}
          />
        ) : (
          <div className="flex gap-1">
            <input
              id={id}
              inputMode={field.type === "number" ? "decimal" : undefined}
              className={`input w-full h-11 text-lg px-2.5 ${ink}`}
              value={value}
              aria-invalid={error ? true : undefined}
              aria-describedby={note}
              onChange={(event) => onChange(event.currentTarget.value)}
            />
            {onRead && (
              <button
                type="button"
                className="btn btn-square size-11"
                aria-label={`Read ${field.label} with the stand-in meter`}
                title="Read with the stand-in meter"
                onClick={onRead}
              >
                <Gauge size={20} aria-hidden />
              </button>
            )}
          </div>
        )
      }
    </Labelled>
  );
}
