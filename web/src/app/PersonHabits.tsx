import { type ReactNode, useState } from "react";
import { useKeepHabits } from "../api/people";
import { type Habits, USUAL } from "../kit/habits";
import { HabitsProvider } from "../kit/system";

/** Figures as the person who is logged in reads them; before that, as most do here. */
export function PersonHabits({ habits, children }: { habits: Habits | undefined; children: ReactNode }) {
  const keep = useKeepHabits();
  const [nobodys, setNobodys] = useState(USUAL);
  return (
    <HabitsProvider habits={habits ?? nobodys} onChange={habits ? keep : setNobodys}>
      {children}
    </HabitsProvider>
  );
}
