import { useCallback, useState } from "react";

export type Sound = "silent" | "beeps" | "spoken";
const KEY = "old-spoon:sound";
const ORDER: readonly Sound[] = ["silent", "beeps", "spoken"];

function kept(): Sound {
  try {
    return ORDER.find((one) => one === localStorage.getItem(KEY)) ?? "silent";
  } catch {
    return "silent";
  }
}

let context: AudioContext | null = null;

function beep(urgent: boolean): void {
  context ??= new AudioContext();
  const from = context.currentTime;
  const beeps = urgent ? [0, 0.22, 0.44] : [0];
  for (const at of beeps) {
    const tone = context.createOscillator();
    const gain = context.createGain();
    tone.frequency.value = urgent ? 1180 : 780;
    gain.gain.setValueAtTime(0.25, from + at);
    gain.gain.exponentialRampToValueAtTime(0.001, from + at + 0.18);
    tone.connect(gain).connect(context.destination);
    tone.start(from + at);
    tone.stop(from + at + 0.2);
  }
}

/** The sound of this device: silent, beeps, or what there is to say said aloud. */
export function useSound() {
  const [sound, setSound] = useState(kept);
  const turn = useCallback(() => {
    setSound((before) => {
      const now = ORDER[(ORDER.indexOf(before) + 1) % ORDER.length] ?? "silent";
      try {
        localStorage.setItem(KEY, now);
      } catch {
        // Not kept; it still holds while this page is open.
      }
      return now;
    });
  }, []);
  const say = useCallback(
    (sentence: string, urgent: boolean) => {
      if (sound === "silent") return;
      beep(urgent);
      if (sound === "spoken" && "speechSynthesis" in window)
        window.speechSynthesis.speak(new SpeechSynthesisUtterance(sentence));
    },
    [sound],
  );
  return { sound, turn, say };
}
