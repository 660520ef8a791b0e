import { api, type LogEntry } from "../../api/client";
import { useScreen } from "../../job/context";

interface Props {
  entry: LogEntry;
  /** The entry whose photo shows the same before. */
  before?: LogEntry;
}

/** The photo of an entry, beside the one that shows the same before. */
export function Photos({ entry, before }: Props) {
  const said = String(entry.lines.find(([label]) => label === "It shows")?.[1] ?? entry.title);
  return (
    <div className={`grid gap-2 my-1 ${before?.photo ? "grid-cols-2" : ""}`}>
      {before?.photo && <Photo entry={before} said={`Before, entry ${before.number}`} />}
      <Photo entry={entry} said={before?.photo ? `After: ${said}` : said} />
    </div>
  );
}

function Photo({ entry, said }: { entry: LogEntry; said: string }) {
  const { jobId } = useScreen();
  const { photo } = entry;
  if (!photo) return null;
  return (
    <figure>
      <a href={api.photo(jobId, photo.hash, false)} target="_blank" rel="noreferrer">
        <img
          src={api.photo(jobId, photo.hash, true)}
          alt={said}
          loading="lazy"
          width={photo.width}
          height={photo.height}
          className="w-full h-auto max-h-80 object-contain bg-base-200 rounded-box"
        />
      </a>
      <figcaption className="text-sm">
        {said}
        {photo.taken && `; by the camera ${photo.taken.replace("T", ", ")}`}
        {photo.located && "; the picture names its GPS position"}
      </figcaption>
    </figure>
  );
}
