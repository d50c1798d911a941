import { useQuery } from "@tanstack/react-query";
import { client, type JobSpec, taken } from "../api/client";
import { Choice } from "../ui/Choice";
import { Told } from "../ui/Told";

type Practice = JobSpec["practice"];

/** Where schools differ: every choice with what speaks for the one that is taken; what speaks for the others folds away. */
export function PracticeFields({
  practice,
  onChange,
  columns = "md:grid-cols-2",
}: {
  practice: Practice;
  onChange: (change: Partial<Practice>) => void;
  columns?: string;
}) {
  const choices = useQuery({
    queryKey: ["practice"],
    queryFn: () => taken(client.GET("/api/practice")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  return (
    <ul className={`grid gap-x-8 gap-y-5 ${columns}`}>
      {choices.data?.map(({ field, question, options }) => {
        const value = practice[field as keyof Practice];
        const [chosen] = options.filter((option) => option.value === value);
        const others = options.filter((option) => option !== chosen);
        return (
          <li key={field}>
            <Choice
              label={question}
              value={value}
              options={options.map((option) => [option.value, option.value] as const)}
              onChange={(next) => onChange({ [field]: next })}
            />
            {chosen && (
              <p className="mt-1 text-[0.875rem] leading-snug">
                <Told>{chosen.reason}</Told>
              </p>
            )}
            <details className="lab">
              <summary className="flex min-h-8 w-fit cursor-pointer items-center underline decoration-dotted underline-offset-3 pointer-coarse:min-h-11">
                {others.length === 1 ? `Why ${others[0]?.value}?` : "Why one of the others?"}
              </summary>
              {others.map((option) => (
                <p key={option.value} className="leading-snug">
                  {others.length > 1 && <b className="font-medium">{option.value}: </b>}
                  <Told>{option.reason}</Told>
                </p>
              ))}
            </details>
          </li>
        );
      })}
    </ul>
  );
}
