import { useMutation } from "@tanstack/react-query";
import { Link } from "react-router";
import { client, type Part, Refused, taken } from "../../api/client";
import { useJob } from "../../job/context";
import { FilePick } from "../../ui/FilePick";
import { Prints } from "../../ui/Prints";
import { withPlies } from "./plies";

/** The stack as a table for a spreadsheet, and one read back from it. */
export function StackFile({ part }: { part: Part }) {
  const { job, edit, saving } = useJob();
  const read = useMutation({
    mutationFn: async (file: File) =>
      taken(
        client.POST("/api/jobs/{job_id}/parts/{part_id}/stack-from-csv", {
          params: { path: { job_id: job.id, part_id: part.id } },
          body: (await file.arrayBuffer()) as never,
          bodySerializer: (bytes: unknown) => bytes as ArrayBuffer,
          headers: { "Content-Type": "text/csv" },
        }),
      ),
    onSuccess: (table) => table.problems.length || edit((before) => withPlies(before, part.id, table)),
  });
  return (
    <div className="text-[0.875rem]">
      <span className="lab">Take it elsewhere: </span>
      {saving === "saved" && (
        <a className="link" href={`/api/jobs/${job.id}/parts/${part.id}/stack.csv`} download>
          the plies as CSV
        </a>
      )}
      ,{" "}
      <a className="link" href={`/api/jobs/${job.id}/parts/${part.id}/section.svg`} download>
        the section as SVG
      </a>
      ,{" "}
      {saving === "saved" && (
        <Prints job={job} file="laminate">
          the laminate
        </Prints>
      )}
      ,{" "}
      <a className="link" href={`/api/jobs/${job.id}/workbook.xlsx`} download>
        the job as a workbook
      </a>
      ,{" "}
      <Link to={`/jobs/${job.id}/buy`} className="link">
        what to buy
      </Link>
      ; or bring in{" "}
      <FilePick label="Plies as CSV" accept=".csv,text/csv" look="text" onFile={(file) => read.mutate(file)}>
        plies from CSV
      </FilePick>
      {read.data?.problems.map((problem) => (
        <p key={problem.row} role="alert" className="text-[0.8125rem] text-stop">
          row {problem.row}: {problem.message}
        </p>
      ))}
      {read.data && read.data.problems.length > 0 && (
        <p className="text-[0.8125rem]">
          Nothing was taken: the stack stands as it was. Mend these rows and bring it again.
        </p>
      )}
      {read.error instanceof Refused && (
        <p role="alert" className="text-[0.8125rem] text-stop">
          the file {read.error.message}
        </p>
      )}
    </div>
  );
}
