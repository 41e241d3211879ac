import { type FormEvent, useState } from "react";
import type { Here } from "../../api/here";
import { type Member, type Role, useCrew, useCrewActions } from "../../api/people";
import { Problem } from "../../api/problem";
import { Button } from "../../kit/Button";
import { Choice } from "../../kit/Choice";
import { Facts } from "../../kit/Facts";
import { Failed, Loading, Notice } from "../../kit/Notice";
import { SelectBox } from "../../kit/SelectBox";
import { Sheet } from "../../kit/Sheet";
import { TextBox } from "../../kit/TextBox";
import { useTold } from "../../kit/Told";
import { when } from "../../kit/when";

const ROLES: readonly { value: Role; shown: string }[] = [
  { value: "viewer", shown: "viewer: looks" },
  { value: "cook", shown: "cook: cooks and marks" },
  { value: "chef", shown: "chef: changes everything" },
];

/** Who works here, and who is asked to. */
export function People({ here }: { here: Here }) {
  const crew = useCrew(here.slug);
  const actions = useCrewActions(here.slug);
  const [taking, setTaking] = useState<Member | null>(null);
  // What somebody opened as a chef, and what ended when they were none any more.
  const [ended, setEnded] = useState("");
  const { tell } = useTold();
  const taken = (say: string) => ({
    onSuccess: (off: { key: number; ended?: string }) => {
      setEnded(off.ended ?? "");
      tell({ say, back: () => actions.back.mutateAsync(off.key) });
    },
  });
  const chef = here.role === "chef";
  const failed = actions.role.error ?? actions.takeOff.error ?? actions.uninvite.error;
  if (crew.isPending) return <Loading what="the people" />;
  if (crew.isError) return <Failed sentence={crew.error.message} again={() => void crew.refetch()} />;
  return (
    <section aria-label="People">
      <h2 className="mb-2">People</h2>
      {ended ? <Notice>Ended with that: {ended}.</Notice> : null}
      <ul>
        {crew.data.people.map((one) => (
          <li
            key={one.id}
            className="flex flex-wrap items-center justify-between gap-3 border-b border-hair py-2"
          >
            <span className="min-w-0 flex-1 basis-44 break-words">
              {one.me ? `${one.title} (you)` : one.title}
              <Facts
                className="text-sm text-soft"
                of={[`logs in as ${one.username}`, one.has_pin && "has a PIN"]}
              />
            </span>
            {chef ? (
              <span className="flex items-end gap-2">
                <SelectBox
                  label={`What ${one.title} may do`}
                  hideLabel
                  className="w-56"
                  options={ROLES}
                  value={one.role}
                  onChange={(role) =>
                    actions.role.mutate(
                      { member_id: one.id, role },
                      { onSuccess: (now) => setEnded(now.ended ?? "") },
                    )
                  }
                />
                {one.locked ? (
                  <Button
                    disabled={actions.unlock.isPending}
                    aria-label={`Locked out: let ${one.title} try again`}
                    onClick={() => actions.unlock.mutate(one.id)}
                  >
                    Let them try again
                  </Button>
                ) : null}
                <Button aria-label={`Remove: ${one.title}`} onClick={() => setTaking(one)}>
                  Remove
                </Button>
              </span>
            ) : (
              <span className="text-soft">{one.role}</span>
            )}
          </li>
        ))}
      </ul>
      {failed ? (
        <div className="mt-3">
          <Notice tone="wrong">{failed.message}</Notice>
        </div>
      ) : null}
      {crew.data.invitations.length ? (
        <>
          <h3 className="mt-6 mb-1">Asked to come</h3>
          <ul>
            {crew.data.invitations.map((one) => (
              <li key={one.id} className="flex items-center justify-between gap-3 border-b border-hair py-2">
                <span className="min-w-0 break-words">
                  {one.title}, as {one.role}
                  <span className="block text-sm text-soft">
                    {one.open ? `good until ${when(one.until)}` : "has run out"}
                  </span>
                </span>
                <Button
                  aria-label={`Take the invitation back: ${one.title}`}
                  onClick={() =>
                    actions.uninvite.mutate(one.id, taken(`The invitation of ${one.title} is taken back.`))
                  }
                >
                  Take back
                </Button>
              </li>
            ))}
          </ul>
        </>
      ) : null}
      {chef ? <Invite here={here} /> : null}
      <Sheet open={taking !== null} onClose={() => setTaking(null)} title={`Remove ${taking?.title}?`}>
        <p>They can no longer enter this kitchen. What they cooked and marked stays theirs.</p>
        <div className="mt-4 flex gap-3">
          <Button
            look="danger"
            onClick={() => {
              if (taking) actions.takeOff.mutate(taking.id, taken(`${taking.title} is removed.`));
              setTaking(null);
            }}
          >
            Remove
          </Button>
          <Button onClick={() => setTaking(null)}>Leave it</Button>
        </div>
      </Sheet>
    </section>
  );
}

/** A link with an expiry: no mail needed, it goes by hand. */
function Invite({ here }: { here: Here }) {
  const { invite } = useCrewActions(here.slug);
  const [title, setTitle] = useState("");
  const [role, setRole] = useState<Role>("cook");
  const [copied, setCopied] = useState(false);
  const problem = invite.error instanceof Problem ? invite.error : null;
  const made = invite.data;
  const link = made ? `${window.location.origin}/join/${made.token}` : "";
  const submit = (event: FormEvent) => {
    event.preventDefault();
    setCopied(false);
    invite.mutate({ title, role }, { onSuccess: () => setTitle("") });
  };
  return (
    <form
      onSubmit={submit}
      noValidate
      aria-label="Invite someone"
      className="mt-6 grid gap-4 border-t border-hair pt-5"
    >
      <h3>Invite someone</h3>
      <TextBox
        label="What they are here"
        hint="As others see them: “commis”, “pastry cook”."
        error={problem?.at("title")}
        maxLength={80}
        value={title}
        onChange={setTitle}
      />
      <Choice label="What they may do" options={ROLES} value={role} onChange={setRole} />
      <Button
        look="iron"
        type="submit"
        className="justify-self-start"
        disabled={!title.trim() || invite.isPending}
      >
        Make a link
      </Button>
      {made ? (
        <Notice>
          For {made.title}, once, until {when(made.until)}. It is shown only now:{" "}
          <code className="block py-1 break-all select-all">{link}</code>
          <Button onClick={() => void navigator.clipboard?.writeText(link).then(() => setCopied(true))}>
            {copied ? "Copied" : "Copy it"}
          </Button>
        </Notice>
      ) : null}
      {problem?.beside("title") ? <Notice tone="wrong">{problem.message}</Notice> : null}
    </form>
  );
}
