import { type FormEvent, useState } from "react";
import { Problem } from "../../api/problem";
import { useLogIn } from "../../api/queries";
import { Button } from "../../kit/Button";
import { Notice } from "../../kit/Notice";
import { TextBox } from "../../kit/TextBox";
import { Opening } from "../../shared/Opening";

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
    <Opening>
      <form onSubmit={submit} className="grid gap-4" noValidate>
        <TextBox
          label="Name"
          error={problem?.at("username")}
          known="username"
          value={username}
          onChange={setUsername}
        />
        <TextBox
          label="Password"
          error={problem?.at("password")}
          secret="current-password"
          value={password}
          onChange={setPassword}
        />
        <Button look="solid" type="submit" disabled={logIn.isPending} className="text-lg">
          {logIn.isPending ? "Opening …" : "Into the kitchen"}
        </Button>
        {problem ? <Notice tone="wrong">{problem.message}</Notice> : null}
      </form>
    </Opening>
  );
}
