import { useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useEffect, useId, useState } from "react";
import { api, type Problem, SIGN_IN } from "../api/client";
import { Modal } from "./Modal";
import { Refusal } from "./Refusal";

/** Asks for the passphrase when the server does; what is on the page stays as it is. */
export function SignIn() {
  const [asked, setAsked] = useState(false);
  const [passphrase, setPassphrase] = useState("");
  const [shown, show] = useState(false);
  const [problem, setProblem] = useState<Problem | null>(null);
  const client = useQueryClient();
  const id = useId();
  useEffect(() => {
    const ask = () => setAsked(true);
    window.addEventListener(SIGN_IN, ask);
    return () => window.removeEventListener(SIGN_IN, ask);
  }, []);
  if (!asked) return null;
  async function enter(event: FormEvent) {
    event.preventDefault();
    try {
      await api.signIn(passphrase);
      setAsked(false);
      setPassphrase("");
      setProblem(null);
      void client.resetQueries();
    } catch (error) {
      setProblem(error as Problem);
    }
  }
  return (
    <Modal title="Sign in">
      <form className="mt-2 space-y-3" onSubmit={enter}>
        <p>This Calm Basin runs on another machine. Its passphrase was set there.</p>
        {problem && <Refusal problem={problem} />}
        <label htmlFor={id}>Passphrase</label>
        <input
          id={id}
          className="input w-full h-11 text-lg"
          type={shown ? "text" : "password"}
          autoComplete="current-password"
          value={passphrase}
          required
          onChange={(event) => setPassphrase(event.currentTarget.value)}
        />
        <label className="flex items-center gap-2 h-11">
          <input
            type="checkbox"
            className="checkbox"
            checked={shown}
            onChange={(event) => show(event.currentTarget.checked)}
          />
          Show what I type
        </label>
        <button type="submit" className="btn btn-info h-11">
          Sign in
        </button>
      </form>
    </Modal>
  );
}
