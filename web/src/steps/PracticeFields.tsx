import { useQuery } from "@tanstack/react-query";
import { client, type JobSpec, taken } from "../api/client";
import { Choice } from "../ui/Choice";
import { Told } from "../ui/Told";

type Practice = JobSpec["practice"];

/** Where schools differ: every choice, with what speaks for the one that is taken. */
export function PracticeFields({
  practice,
  onChange,
}: {
  practice: Practice;
  onChange: (change: Partial<Practice>) => void;
}) {
  const choices = useQuery({
    queryKey: ["practice"],
    queryFn: () => taken(client.GET("/api/practice")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  return (
    <ul className="grid gap-x-6 gap-y-4 md:grid-cols-2">
      {choices.data?.map(({ field, question, options }) => {
        const value = practice[field as keyof Practice];
        return (
          <li key={field}>
            <Choice
              label={question}
              value={value}
              options={options.map((option) => [option.value, option.value] as const)}
              onChange={(next) => onChange({ [field]: next })}
            />
            {options.map((option) => (
              <p
                key={option.value}
                className={`mt-1 text-[0.8125rem] leading-snug ${option.value === value ? "" : "text-ink-soft"}`}
              >
                <b className="font-medium">{option.value}:</b> <Told>{option.reason}</Told>
              </p>
            ))}
          </li>
        );
      })}
    </ul>
  );
}
