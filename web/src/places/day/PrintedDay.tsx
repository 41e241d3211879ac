import type { Day } from "../../api/day";
import { dateText, timeText } from "./times";

/** The day on paper: for each pair of hands what is done when, with a box to tick. */
export function PrintedDay({ day }: { day: Day }) {
  const jobs = new Map(day.jobs.map((job) => [job.key, job]));
  return (
    <div className="printed hidden print:block">
      <h1>{dateText(day.date)}</h1>
      <p>{day.plan?.say}</p>
      {day.hands.map((hands) => (
        <table key={hands.id}>
          <thead>
            <tr>
              <th colSpan={4}>{hands.name}</th>
            </tr>
          </thead>
          <tbody>
            {day.steps
              .filter((step) => step.hands_id === hands.id)
              .map((step) => (
                <tr key={`${step.job} ${step.place}`}>
                  <td>☐</td>
                  <td>
                    {timeText(step.begins)} – {timeText(step.ends)}
                  </td>
                  <td>{step.say}</td>
                  <td>{jobs.get(step.job)?.name}</td>
                </tr>
              ))}
          </tbody>
        </table>
      ))}
    </div>
  );
}
