import { DropdownMenu } from "radix-ui";
import { BUTTON } from "./dialog";
import { useFile } from "./download";

export type FileGroups = [title: string, files: [what: string, words: string][]][];

/** What can be taken away as a file: addresses under `base`, by groups. */
export function Files({ base, groups }: { base: string; groups: FileGroups }) {
  const [get, why] = useFile();
  return (
    <>
      {why}
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger className={BUTTON}>Files</DropdownMenu.Trigger>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          className="z-20 max-h-[80vh] w-72 overflow-y-auto rounded-md border border-line bg-sheet p-1 shadow-lg"
        >
          {groups.map(([title, files]) => (
            <DropdownMenu.Group key={title} className="pb-1">
              <DropdownMenu.Label className="px-2 pt-1.5 text-xs text-faint">{title}</DropdownMenu.Label>
              {files.map(([what, words]) => (
                <DropdownMenu.Item
                  key={what}
                  className="cursor-pointer rounded px-2 py-1 outline-none data-[highlighted]:bg-paper"
                  onSelect={() => get(`${base}/${what}`)}
                >
                  {words}
                </DropdownMenu.Item>
              ))}
            </DropdownMenu.Group>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Root>
    </>
  );
}
