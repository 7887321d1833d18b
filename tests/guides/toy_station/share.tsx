import { useParams } from "react-router";
import { useShare } from "../api/share";
import { Empty, refused, Trouble, Waiting } from "../parts/empty";
import { shareWords } from "../share/share";

/** How much of the job is done, in one line. */
export function ShareStation() {
  const { job = "" } = useParams();
  const { data, error, refetch } = useShare(job);
  if (refused(error, data)) return <Trouble error={error} retry={refetch} />;
  if (!data) return <Waiting what="how much is done" />;
  if (!data.total) return <Empty title="No connections yet">Import a model first.</Empty>;
  return <h1 className="px-6 py-4 text-base font-semibold">{shareWords(data.done, data.total)}</h1>;
}
