import { useShop } from "../shop";
import { Download } from "./Download";

/** A print of a job, on the shop's paper and on the other. */
export function Prints({ job, file, children }: { job: { id: string }; file: string; children: string }) {
  const { papers } = useShop();
  return papers.map((paper) => (
    <Download key={paper} href={`/api/jobs/${job.id}/${file}.pdf?paper=${paper}`} name={`${file}.pdf`}>
      {`${children} on ${paper}`}
    </Download>
  ));
}
