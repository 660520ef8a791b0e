import { Camera, MapPin, X } from "lucide-react";
import { useEffect, useState } from "react";
import { useScreen } from "../../job/context";
import { PickedPlace } from "../PickedPlace";

interface Props {
  photo: File | null;
  error?: string;
  located: boolean;
  onPhoto: (photo: File | null) => void;
  onLocated: (located: boolean) => void;
}

/** What a browser can show and the log takes. */
const PICTURES = "image/jpeg,image/png,image/webp";

/** The picture of an entry: taken with the camera or from a file. */
export function PhotoFields({ photo, error, located, onPhoto, onLocated }: Props) {
  const shown = useAddress(photo);
  return (
    <div className="space-y-2">
      <div className="flex items-center gap-3">
        <label className={`btn h-12 px-4 ${photo ? "" : "btn-info"}`}>
          <Camera size={20} aria-hidden /> {photo ? "Another picture" : "Take or choose a picture"}
          <input
            type="file"
            accept={PICTURES}
            className="sr-only"
            onChange={(event) => {
              onPhoto(event.currentTarget.files?.[0] ?? null);
              event.currentTarget.value = "";
            }}
          />
        </label>
        {shown && (
          <img
            src={shown}
            alt="What was chosen"
            className="h-16 w-20 object-cover rounded-box border border-base-300"
          />
        )}
      </div>
      {error && (
        <p role="alert" className="text-sm text-error font-semibold">
          {error}
        </p>
      )}
      <button
        type="button"
        className={`btn h-11 ${located ? "btn-info" : ""}`}
        aria-pressed={located}
        onClick={() => onLocated(!located)}
      >
        Keep the GPS position in the picture
      </button>
    </div>
  );
}

/** An address under which the page shows a file; null without one. */
function useAddress(file: File | null): string | null {
  const [address, setAddress] = useState<string | null>(null);
  useEffect(() => {
    if (!file) return setAddress(null);
    const made = URL.createObjectURL(file);
    setAddress(made);
    return () => URL.revokeObjectURL(made);
  }, [file]);
  return address;
}

/** Where it was taken: the place on the chart that was touched. */
export function PlaceField({ label, error }: { label: string; error?: string }) {
  const { picked, pick } = useScreen();
  return (
    <div>
      <span className="block text-sm leading-tight mb-1">{label} (if marked)</span>
      <PickedPlace />
      <div className="flex items-center gap-2 min-h-11" role="status">
        <MapPin size={18} aria-hidden className="shrink-0" />
        {picked ? "Marked on the chart" : "Touch the chart where it is"}
        {picked && (
          <button
            type="button"
            className="btn btn-ghost btn-square size-11"
            aria-label="Clear the mark"
            onClick={() => pick(null)}
          >
            <X size={18} aria-hidden />
          </button>
        )}
      </div>
      {error && (
        <p role="alert" className="text-sm text-error font-semibold">
          {error}
        </p>
      )}
    </div>
  );
}
