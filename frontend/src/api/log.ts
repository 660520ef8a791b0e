/** An entry of the site log as it was written, and the verdict on it. */
export interface LogEntry {
  number: number;
  id: string;
  made_at: string;
  kind: string;
  title: string;
  by: string;
  at: string;
  lines: [label: string, text: string][];
  verdict: {
    state: "holds" | "fails" | "open" | "none";
    text: string;
    why: string;
    cure: string;
    source: string;
  };
  values: { entry?: number; place?: [number, number] | null; before?: number | null };
  /** The picture of a photo's entry. */
  photo?: {
    hash: string;
    media: string;
    size: number;
    width: number;
    height: number;
    /** When it was taken, by the camera; empty where it does not say. */
    taken: string;
    /** Whether it still says where on earth it was taken. */
    located: boolean;
  };
}

export interface Log {
  entries: LogEntry[];
  /** The hash of the last entry, which binds all before it. */
  last: string;
}

/** What is written down, as it was typed; known by its id, however often it arrives. */
export interface LogWriting {
  id: string;
  kind: string;
  by: string;
  at: string;
  fields: Record<string, string>;
  photo?: Blob;
  /** Whether what the picture says of its place on earth is kept. */
  located?: boolean;
  /** Why it could not be read, of one that had waited: it stays until somebody lets it go. */
  refused?: string;
}

export interface LogForm {
  kind: string;
  title: string;
  hint: string;
  /** The step that it is written in; empty: the site log. */
  step: string;
  fields: {
    name: string;
    label: string;
    type:
      | "length"
      | "number"
      | "text"
      | "long text"
      | "yes or no"
      | "choice"
      | "place"
      | "photo"
      | "readings"
      | "series";
    unit: string;
    needed: boolean;
    choices: string[];
    /** The instrument that may read it; empty: none. */
    device: string;
    /** The field that says what is expected, or the expected value itself. */
    near: string;
  }[];
}
