/** How much of a job is done, in words. */
export function shareWords(done: number, total: number): string {
  return total ? `${done} of ${total} connections done, ${Math.floor((100 * done) / total)} %` : "no connections yet";
}
