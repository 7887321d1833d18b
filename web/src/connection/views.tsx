import { Tabs } from "radix-ui";
import { type ReactNode, useEffect, useRef, useState } from "react";
import type { View } from "../api/types";
import { type Place, SceneView } from "../drawing/scene-view";

const LARGE = 30; // heights of a letter that a view of the large sheet is wide or more
const BESIDE = 76; // px of what stands above and between the views

interface Props {
  views: View[];
  part: string;
  setPart: (part: string) => void;
  over?: (place: Place, view: View) => ReactNode; // drawn over a view
  tried?: boolean; // not as it stands
  children: ReactNode;
}

/** How high what holds an element is, px. */
function useRoom() {
  const own = useRef<HTMLDivElement>(null);
  const [high, setHigh] = useState(640);
  useEffect(() => {
    const holder = own.current?.parentElement;
    if (!holder) return;
    const watch = new ResizeObserver(() => setHigh(holder.clientHeight));
    watch.observe(holder);
    return () => watch.disconnect();
  }, []);
  return { own, high };
}

/** The large views, one at a time where there are several; the small one below them, with `children` beside it: all of them whole
 *  where the window allows. */
export function Views({ views, part, setPart, over, tried, children }: Props) {
  const large = views.filter((view) => (view.extent[2] - view.extent[0]) / view.lettering > LARGE);
  const main = large.length ? large : views.slice(0, 1);
  const small = views.find((view) => !main.includes(view));
  const { own, high } = useRoom();
  const low = small ? Math.min(208, Math.max(150, 0.3 * high)) : 0;
  const room = Math.min(420, Math.max(300, high - BESIDE - (low || 150)));
  const scene = (view: View) => (
    <SceneView
      view={view}
      width={522}
      height={room}
      active={part}
      onPart={setPart}
      over={over && ((place) => over(place, view))}
    />
  );
  return (
    <div ref={own} className="relative">
      {tried && (
        <p className="absolute right-1 top-0 rounded bg-brass px-1.5 text-xs font-semibold">tried, nothing kept</p>
      )}
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
        {small && <SceneView view={small} width={1.26 * low} height={low} active={part} onPart={setPart} />}
        {children}
      </div>
    </div>
  );
}
