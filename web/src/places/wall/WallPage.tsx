import { type FormEvent, useState } from "react";
import { Problem } from "../../api/problem";
import { keepCode, keptCode, plainCode, useWallStove } from "../../api/wall";
import { Button } from "../../kit/Button";
import { Loading, Notice } from "../../kit/Notice";
import { TextBox } from "../../kit/TextBox";
import { Opening } from "../../shared/Opening";
import { type Sound, useSound } from "../../shared/sound";
import { Wall } from "./Wall";

const REFUSED = new Set([401, 403]);

/** A screen that everybody sees and nobody touches, once somebody has typed its code. */
export function WallPage() {
  const [code, setCode] = useState(keptCode);
  const stove = useWallStove(code);
  const sound = useSound();
  const refused = stove.error instanceof Problem && REFUSED.has(stove.error.status) ? stove.error : null;
  if (stove.data && !refused)
    return (
      <Wall
        code={code}
        stove={stove.data}
        answeredAt={stove.dataUpdatedAt}
        away={stove.isError}
        say={sound.say}
      />
    );
  if (code && !refused)
    return (
      <Opening>
        <Loading title="The wall" what="what is on" />
        {stove.isError ? <Notice tone="wrong">{stove.error.message}</Notice> : null}
      </Opening>
    );
  return (
    <Ask
      refused={refused}
      sound={sound.sound}
      onSound={sound.turn}
      onCode={(next) => {
        keepCode(next);
        setCode(next);
      }}
    />
  );
}

const SOUNDS: Record<Sound, string> = {
  silent: "silent",
  beeps: "with beeps",
  spoken: "spoken aloud",
};

interface AskProps {
  refused: Problem | null;
  sound: Sound;
  onSound: () => void;
  onCode: (code: string) => void;
}

/** Where the code is typed, once; whether alarms are heard is chosen here too. */
function Ask({ refused, sound, onSound, onCode }: AskProps) {
  const [typed, setTyped] = useState("");
  const code = plainCode(typed);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (code) onCode(code);
  };
  const why = refused?.status === 401 ? "This code does not open a wall, or no longer." : refused?.message;
  return (
    <Opening>
      <form onSubmit={submit} className="grid gap-4" noValidate>
        <p>
          A chef gets the code under <i>Kitchen, Probes, scales, screens</i>: register a screen. It is typed
          once; this screen then shows what is on, and changes nothing.
        </p>
        <TextBox label="The code" maxLength={40} value={typed} onChange={setTyped} error={why} />
        <p className="flex flex-wrap items-center gap-3">
          Alarms on this screen:
          <Button aria-label="Alarms on this screen" onClick={onSound}>
            {SOUNDS[sound]}
          </Button>
        </p>
        <Button look="solid" type="submit" disabled={!code} className="text-lg">
          Show the wall
        </Button>
      </form>
    </Opening>
  );
}
