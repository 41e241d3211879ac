import { type FormEvent, useState } from "react";
import { Problem } from "../../api/problem";
import { useLogIn } from "../../api/queries";
import { Button } from "../../kit/Button";
import { Field } from "../../kit/Field";
import { Notice } from "../../kit/Notice";
import { Spoon } from "../../kit/Spoon";

export function LogIn() {
  const [username, setUsername] = useState("");
  const [password, setPassword] = useState("");
  const logIn = useLogIn();
  const problem = logIn.error instanceof Problem ? logIn.error : null;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    logIn.mutate({ username, password });
  };
  return (
    <main className="mx-auto grid min-h-screen max-w-[860px] content-center items-center gap-10 px-5 py-10 md:grid-cols-[1fr_380px]">
      <div className="flex items-center gap-6">
        <Spoon film={{ film_mm: 0.34, line: "holds", word: "nappe" }} size={220} />
        <div>
          <h1 className="text-[2.6rem]">Old Spoon</h1>
          <p className="mt-2 text-lg text-soft">
            Where it thickens, when to lift it, and what it was like last time.
          </p>
        </div>
      </div>
      <form onSubmit={submit} className="grid gap-4" noValidate>
        <Field label="Name" error={problem?.at("username")}>
          {(given) => (
            <input
              {...given}
              className="w-full"
              autoComplete="username"
              autoCapitalize="none"
              value={username}
              onChange={(event) => setUsername(event.target.value)}
            />
          )}
        </Field>
        <Field label="Password" error={problem?.at("password")}>
          {(given) => (
            <input
              {...given}
              className="w-full"
              type="password"
              autoComplete="current-password"
              value={password}
              onChange={(event) => setPassword(event.target.value)}
            />
          )}
        </Field>
        <Button look="solid" type="submit" disabled={logIn.isPending} className="text-lg">
          {logIn.isPending ? "Opening …" : "Into the kitchen"}
        </Button>
        {problem ? <Notice tone="wrong">{problem.message}</Notice> : null}
      </form>
    </main>
  );
}
