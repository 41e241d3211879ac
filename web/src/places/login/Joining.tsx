import { type FormEvent, type ReactNode, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { useFirst, useInvitation, useJoin } from "../../api/people";
import { Problem } from "../../api/problem";
import { Button } from "../../kit/Button";
import { Loading, Notice } from "../../kit/Notice";
import { TextBox } from "../../kit/TextBox";
import { when } from "../../kit/when";
import { Opening } from "../../shared/Opening";

interface Newcomer {
  username: string;
  title: string;
  password: string;
}

/** The first person of all: nobody was ever here. */
export function First() {
  const first = useFirst();
  return (
    <Opening>
      <NewPerson
        button="Begin"
        pending={first.isPending}
        error={first.error}
        onSend={(newcomer) => first.mutate(newcomer)}
      >
        <h2>Nobody is here yet</h2>
        <p className="text-soft">
          You are the first. Say who you are; four questions about the kitchen come next.
        </p>
      </NewPerson>
    </Opening>
  );
}

/** Where a link of invitation leads. */
export function Join() {
  const { token = "" } = useParams();
  const invitation = useInvitation(token);
  const join = useJoin(token);
  const navigate = useNavigate();
  const into = { onSuccess: () => navigate("/") };
  if (invitation.isPending)
    return (
      <Opening>
        <Loading what="the invitation" />
      </Opening>
    );
  if (invitation.isError)
    return (
      <Opening>
        <div>
          <Notice tone="wrong">{invitation.error.message}</Notice>
          <Button className="mt-4" onClick={() => navigate("/")}>
            To the door
          </Button>
        </div>
      </Opening>
    );
  const asked = invitation.data;
  const told = (
    <>
      <h2 className="break-words">Into {asked.kitchen}</h2>
      <p className="text-soft">
        {asked.by} asks you to come, as {asked.role}. The link is good until {when(asked.until)}, once.
      </p>
    </>
  );
  return (
    <Opening>
      {asked.known ? (
        <div className="grid gap-4">
          {told}
          <Button
            look="solid"
            disabled={join.isPending}
            onClick={() => join.mutate({ username: "", title: "", password: "" }, into)}
          >
            Join it
          </Button>
          {join.error ? <Notice tone="wrong">{join.error.message}</Notice> : null}
        </div>
      ) : (
        <NewPerson
          button="Join"
          title={asked.title}
          pending={join.isPending}
          error={join.error}
          onSend={(newcomer) => join.mutate(newcomer, into)}
        >
          {told}
        </NewPerson>
      )}
    </Opening>
  );
}

interface Props {
  button: string;
  title?: string;
  pending: boolean;
  error: Error | null;
  onSend: (newcomer: Newcomer) => void;
  children: ReactNode;
}

function NewPerson({ button, title: first = "", pending, error, onSend, children }: Props) {
  const [username, setUsername] = useState("");
  const [title, setTitle] = useState(first);
  const [password, setPassword] = useState("");
  const problem = error instanceof Problem ? error : null;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    onSend({ username, title, password });
  };
  return (
    <form onSubmit={submit} className="grid gap-4" noValidate>
      {children}
      <TextBox
        label="Name to log in with"
        error={problem?.at("username")}
        known="username"
        maxLength={80}
        value={username}
        onChange={setUsername}
      />
      <TextBox
        label="What others see"
        hint="What you are here: “pastry cook”."
        error={problem?.at("title")}
        maxLength={80}
        value={title}
        onChange={setTitle}
      />
      <TextBox
        label="Password"
        hint="At least ten signs."
        error={problem?.at("password")}
        secret="new-password"
        maxLength={200}
        value={password}
        onChange={setPassword}
      />
      <Button look="solid" type="submit" disabled={pending} className="text-lg">
        {pending ? "A moment …" : button}
      </Button>
      {problem?.beside("username", "title", "password") ? (
        <Notice tone="wrong">{problem.message}</Notice>
      ) : null}
    </form>
  );
}
