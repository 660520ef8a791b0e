import { useQuery } from "@tanstack/react-query";
import { api } from "../api/client";

/** How phones and tablets come in, and where the passphrase is set with which they do. */
export function OtherDevices() {
  const session = useQuery({ queryKey: ["session"], queryFn: api.session });
  if (!session.data) return null;
  const { asked, set } = session.data;
  return (
    <section>
      <h2 className="text-xl font-bold mb-2">Phones and tablets</h2>
      {asked ? (
        <p>
          This device is signed in. The passphrase is changed on the computer that runs Calm Basin:{" "}
          <Typed>calm-basin passphrase</Typed>. Everybody then signs in again.
        </p>
      ) : (
        <ol className="list-decimal pl-6 space-y-2">
          <li>
            {set ? (
              "A passphrase is set. To change it, type this on this computer: "
            ) : (
              <>
                <strong>No passphrase is set yet.</strong> Type this on this computer:{" "}
              </>
            )}
            <Typed>calm-basin passphrase</Typed>
          </li>
          <li>
            End Calm Basin and start it for the network:{" "}
            <Typed>calm-basin serve --host 0.0.0.0 --tls</Typed>
          </li>
          <li>
            Open the address that it prints on the phone, in the same network, and sign in there
            with the passphrase.
          </li>
        </ol>
      )}
    </section>
  );
}

const Typed = ({ children }: { children: string }) => (
  <code className="bg-base-200 rounded px-1.5 py-0.5 break-words">{children}</code>
);
