import { Tabs } from "radix-ui";
import type { ReactNode } from "react";
import type { View } from "../api/types";
import { type Place, SceneView } from "../drawing/scene-view";

const LARGE = 30; // heights of a letter that a view of the large sheet is wide or more

interface Props {
  views: View[];
  part: string;
  setPart: (part: string) => void;
  over?: (place: Place, view: View) => ReactNode; // drawn over a view
  children: ReactNode;
}

/** The large views, one at a time where there are several; the small one below them, with `children` beside it. */
export function Views({ views, part, setPart, over, children }: Props) {
  const large = views.filter((view) => (view.extent[2] - view.extent[0]) / view.lettering > LARGE);
  const main = large.length ? large : views.slice(0, 1);
  const small = views.find((view) => !main.includes(view));
  const scene = (view: View) => (
    <SceneView
      view={view}
      width={522}
      height={420}
      active={part}
      onPart={setPart}
      over={over && ((place) => over(place, view))}
    />
  );
  return (
    <>
      {main.length > 1 ? (
        <Tabs.Root defaultValue="0">
          <Tabs.List className="flex gap-1 pb-1" aria-label="Views of the drawing">
            {main.map((view, k) => (
              <Tabs.Trigger
                key={view.title}
                value={`${k}`}
                className="rounded px-2 py-0.5 text-xs text-faint hover:bg-paper data-[state=active]:bg-paper data-[state=active]:font-semibold data-[state=active]:text-ink"
              >
                {view.title}
              </Tabs.Trigger>
            ))}
          </Tabs.List>
          {main.map((view, k) => (
            <Tabs.Content key={view.title} value={`${k}`}>
              {scene(view)}
            </Tabs.Content>
          ))}
        </Tabs.Root>
      ) : (
        scene(main[0])
      )}
      <div className="flex">
        {small && <SceneView view={small} width={262} height={208} active={part} onPart={setPart} />}
        {children}
      </div>
    </>
  );
}
