import { useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { useLocation, useNavigate } from "react-router";
import { signIn } from "../api/queries";

export function SignInStation() {
  const [error, setError] = useState("");
  const go = useNavigate();
  const { state } = useLocation();
  const client = useQueryClient();

  async function submit(event: FormEvent<HTMLFormElement>) {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    try {
      client.setQueryData(["me"], await signIn(String(form.get("name")), String(form.get("password"))));
      go(typeof state === "string" ? state : "/", { replace: true });
    } catch (problem) {
      setError((problem as Error).message);
    }
  }

  return (
    <main className="flex h-full items-center justify-center bg-rail">
      <form onSubmit={submit} className="w-80 rounded-lg bg-sheet p-7 shadow-xl">
        <h1 className="text-lg font-semibold">Hand Rail</h1>
        <p className="mb-5 text-faint">Standard connections for a whole building.</p>
        <Field name="name" label="Name" type="text" />
        <Field name="password" label="Password" type="password" />
        {error && (
          <p role="alert" className="mb-3 text-fail">
            {error}
          </p>
        )}
        <button type="submit" className="w-full rounded bg-rail py-2 font-semibold text-white">
          Sign in
        </button>
      </form>
    </main>
  );
}

function Field({ name, label, type }: { name: string; label: string; type: string }) {
  return (
    <label className="mb-3 block">
      <span className="mb-1 block text-faint">{label}</span>
      <input name={name} type={type} required className="w-full rounded border border-line bg-white px-2.5 py-1.5" />
    </label>
  );
}
