import { useRef, useState } from "react";
import { useNavigate } from "react-router";
import { useCalendar, useCalendarActions, useDayEdits, useDays } from "../../api/day";
import { useHere } from "../../api/here";
import { Button } from "../../kit/Button";
import { Wrong } from "../../kit/Field";
import { Menu, MenuAction, MenuBreak, MenuFile } from "../../kit/Menu";
import { Sheet } from "../../kit/Sheet";
import { TextBox } from "../../kit/TextBox";
import { useTold } from "../../kit/Told";
import { dateText } from "./times";

interface Props {
  when: string;
  may: boolean;
  onRoom: () => void;
  onOther: () => void;
}

type Open = "copy" | "keep" | "calendar" | "file" | null;

/** What is done with a day as a whole. */
export function DayMenu({ when, may, onRoom, onOther }: Props) {
  const here = useHere();
  const navigate = useNavigate();
  const [open, setOpen] = useState<Open>(null);
  const path = `/api/k/${here.slug}/days/${when}`;
  return (
    <>
      <Menu label="More">
        {may ? (
          <>
            <MenuAction onSelect={onRoom}>Who is there, and what with</MenuAction>
            <MenuAction onSelect={onOther}>Add other work</MenuAction>
            <MenuAction onSelect={() => setOpen("copy")}>Copy from a day or a template</MenuAction>
            <MenuAction onSelect={() => setOpen("keep")}>Keep as a template</MenuAction>
            <MenuBreak />
          </>
        ) : null}
        <MenuAction onSelect={() => navigate(`/k/${here.slug}/day/${when}/after`)}>
          What it really took
        </MenuAction>
        <MenuAction onSelect={() => setOpen("calendar")}>Subscribe to the days</MenuAction>
        <MenuFile href={`${path}/day.ics`}>This day for a calendar (iCalendar)</MenuFile>
        <MenuFile href={`${path}/day.json`}>This day as a file (JSON)</MenuFile>
        {here.role === "chef" ? (
          <MenuAction onSelect={() => setOpen("file")}>Bring a day in from a file</MenuAction>
        ) : null}
      </Menu>
      {open === "copy" ? <Copy when={when} onClose={() => setOpen(null)} /> : null}
      {open === "keep" ? <Keep when={when} onClose={() => setOpen(null)} /> : null}
      {open === "calendar" ? <Subscribe onClose={() => setOpen(null)} /> : null}
      {open === "file" ? <FromFile when={when} onClose={() => setOpen(null)} /> : null}
    </>
  );
}

function Copy({ when, onClose }: { when: string; onClose: () => void }) {
  const here = useHere();
  const days = useDays(here.slug, when);
  const { copy, removeTemplate, templateBack } = useDayEdits(here.slug, when);
  const { tell } = useTold();
  const rows = days.data?.days.filter((one) => one.date !== when && one.wants > 0) ?? [];
  const templates = days.data?.templates ?? [];
  const take = (body: { date: string | null; template_id: number | null }) =>
    copy.mutate(body, { onSuccess: onClose });
  return (
    <Sheet open onClose={onClose} title="Copy from">
      {!rows.length && !templates.length ? (
        <p className="text-soft">There is no other day within three weeks, and no template yet.</p>
      ) : null}
      <ul className="grid gap-2">
        {templates.map((one) => (
          <li key={one.id} className="flex gap-2">
            <Button
              className="flex-1 text-left"
              disabled={copy.isPending}
              onClick={() => take({ date: null, template_id: one.id })}
            >
              {one.name}, {one.wants} wanted
            </Button>
            <Button
              aria-label={`throw ${one.name} away`}
              disabled={removeTemplate.isPending}
              onClick={() =>
                removeTemplate.mutate(one.id, {
                  onSuccess: () => {
                    tell({
                      say: `The template “${one.name}” is thrown away.`,
                      back: () => templateBack.mutateAsync(one.id),
                    });
                    onClose();
                  },
                })
              }
            >
              ✕
            </Button>
          </li>
        ))}
        {rows.map((one) => (
          <li key={one.date}>
            <Button
              className="w-full text-left"
              disabled={copy.isPending}
              onClick={() => take({ date: one.date, template_id: null })}
            >
              {dateText(one.date)}, {one.wants} wanted
            </Button>
          </li>
        ))}
      </ul>
      {copy.isError ? <Wrong>{copy.error.message}</Wrong> : null}
      {removeTemplate.isError ? <Wrong>{removeTemplate.error.message}</Wrong> : null}
      <Button className="mt-4" onClick={onClose}>
        Close
      </Button>
    </Sheet>
  );
}

function Keep({ when, onClose }: { when: string; onClose: () => void }) {
  const here = useHere();
  const { template } = useDayEdits(here.slug, when);
  const [name, setName] = useState("");
  return (
    <Sheet open onClose={onClose} title="Keep as a template">
      <form
        className="grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          template.mutate(name.trim(), { onSuccess: onClose });
        }}
      >
        <TextBox
          label="Under what name"
          hint="As “a weekday”, “a banquet”. One of that name is replaced."
          value={name}
          maxLength={80}
          error={template.error?.message}
          onChange={setName}
        />
        <div className="flex gap-3">
          <Button look="solid" type="submit" disabled={!name.trim() || template.isPending}>
            Keep it
          </Button>
          <Button onClick={onClose}>Leave it</Button>
        </div>
      </form>
    </Sheet>
  );
}

function Subscribe({ onClose }: { onClose: () => void }) {
  const here = useHere();
  const known = useCalendar(here.slug, true);
  const { make, remove } = useCalendarActions(here.slug);
  const chef = here.role === "chef";
  return (
    <Sheet open onClose={onClose} title="Subscribe to the days">
      <p>
        A calendar that can subscribe to an address shows every day’s steps and what is wanted when. Whoever
        knows the address can read them; nothing can be changed by it.
      </p>
      {make.data?.address ? (
        <p className="mt-3">
          <span className="block text-soft">Shown only once:</span>
          <code className="block border border-hair p-2 break-all select-all">{make.data.address}</code>
        </p>
      ) : (
        <p className="mt-3 text-soft">
          {known.data?.there
            ? "There is an address. It was shown when it was made; a new one replaces it."
            : "There is no address yet."}
        </p>
      )}
      {make.isError ? <Wrong>{make.error.message}</Wrong> : null}
      <div className="mt-4 flex flex-wrap gap-3">
        {chef ? (
          <Button look="solid" disabled={make.isPending} onClick={() => make.mutate()}>
            {known.data?.there ? "Make a new address" : "Make an address"}
          </Button>
        ) : (
          <p className="text-soft">A chef of this kitchen makes it.</p>
        )}
        {chef && known.data?.there ? (
          <Button look="danger" disabled={remove.isPending} onClick={() => remove.mutate()}>
            End this address
          </Button>
        ) : null}
        <Button onClick={onClose}>Close</Button>
      </div>
    </Sheet>
  );
}

function FromFile({ when, onClose }: { when: string; onClose: () => void }) {
  const here = useHere();
  const { bring } = useDayEdits(here.slug, when);
  const [wrong, setWrong] = useState("");
  const input = useRef<HTMLInputElement>(null);
  const read = async (file: File | undefined) => {
    if (!file) return;
    try {
      const body = JSON.parse(await file.text()) as Record<string, never>;
      setWrong("");
      bring.mutate(body, { onSuccess: onClose, onError: (error) => setWrong(error.message) });
    } catch {
      setWrong("That is no JSON file. Nothing was changed.");
    }
    if (input.current) input.current.value = "";
  };
  return (
    <Sheet open onClose={onClose} title="Bring a day in from a file">
      <p className="text-soft">
        A day in the open format: what it wants is added to what is here. Its formulas must be in the Book.
      </p>
      <label className="mt-3 block">
        <span className="mb-1 block text-soft">File</span>
        <input
          ref={input}
          type="file"
          accept=".json,application/json"
          onChange={(event) => void read(event.target.files?.[0])}
        />
      </label>
      {wrong ? <Wrong>{wrong}</Wrong> : null}
      <Button className="mt-4" onClick={onClose}>
        Close
      </Button>
    </Sheet>
  );
}
