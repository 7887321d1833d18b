import type { Form } from "../api/bench";

/** Said where an answer was given for what stood on the Bench then; the sizes, or the standard too, that it may have
 *  changed itself are not looked at. */
export function Before({ asked, form, again, any }: { asked?: Form; form: Form; again: string; any?: boolean }) {
  if (!asked || same(asked, any) === same(form, any)) return null;
  return (
    <p className="my-1 rounded bg-brass/15 px-2 py-1 text-xs">
      From before: something else stands here now. {again} again.
    </p>
  );
}

const same = ({ parameters: _, standard, ...rest }: Form, any?: boolean) =>
  JSON.stringify(any ? rest : { ...rest, standard });
