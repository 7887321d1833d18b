import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, need } from "./client";
import { key } from "./keys";
import { useRefresh } from "./queries";
import type { Progress, Reserves, Revised, SavedView } from "./types";

const at = (job: string) => ({ params: { path: { job } } });
const chosen = (connections: string[]) => ({ connections, where: "", pattern: "", slot: null });

export const useProgress = (job: string) =>
  useQuery({
    queryKey: key("progress", job),
    queryFn: () => need<Progress>(api.GET("/api/v1/jobs/{job}/progress", at(job))),
  });

/** What the newest revision left standing. */
export const useRevised = (job: string) =>
  useQuery({
    queryKey: key("revised", job),
    queryFn: () =>
      need<Revised>(api.GET("/api/v1/jobs/{job}/revised", { params: { path: { job }, query: { what: "" } } })),
  });

export interface Labels {
  connections: string[];
  add?: string[];
  remove?: string[];
  person?: string | null;
  sequence?: string | null;
}

/** Tags, who works on them, erection sequence. */
export function useLabel(job: string) {
  const refresh = useRefresh(job);
  return useMutation({
    mutationFn: ({ connections, add = [], remove = [], person = null, sequence = null }: Labels) =>
      need<{ changed: number }>(
        api.POST("/api/v1/jobs/{job}/labels", {
          ...at(job),
          body: { ...chosen(connections), add, remove, person, sequence },
        }),
      ),
    onSuccess: () => refresh(),
  });
}

export interface Releasing {
  connections: string[];
  word?: string;
  withdraw?: boolean;
  skip?: boolean;
}

/** An engineer's word that connections may be drawn, or that it is withdrawn. */
export function useRelease(job: string) {
  const refresh = useRefresh(job);
  return useMutation({
    mutationFn: ({ connections, word = "", withdraw = false, skip = false }: Releasing) =>
      need<{ connections: number; refused: { connection: string; why: string }[] }>(
        api.POST("/api/v1/jobs/{job}/releases", {
          ...at(job),
          body: { ...chosen(connections), word, withdraw, skip },
        }),
      ),
    onSuccess: () => refresh(),
  });
}

export function useComment(job: string, connection: string) {
  const refresh = useRefresh(job);
  return useMutation({
    mutationFn: (words: string) =>
      need<unknown>(
        api.POST("/api/v1/jobs/{job}/connections/{connection}/comments", {
          params: { path: { job, connection } },
          body: { words },
        }),
      ),
    onSuccess: () => refresh(["connection"]),
  });
}

/** What the shop may alter of connections; empty takes it back. */
export function useShopNote(job: string) {
  const refresh = useRefresh(job);
  return useMutation({
    mutationFn: ({ connections, words }: { connections: string[]; words: string }) =>
      need<{ changed: number }>(
        api.POST("/api/v1/jobs/{job}/shop-notes", { ...at(job), body: { ...chosen(connections), words } }),
      ),
    onSuccess: () => refresh(["connection"]),
  });
}

export const useViews = (job: string) =>
  useQuery({
    queryKey: key("views", job),
    queryFn: async () => (await need<{ items: SavedView[] }>(api.GET("/api/v1/jobs/{job}/views", at(job)))).items,
  });

/** Keep a view of the table, or take one away (no `asks`). */
export function usePutView(job: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({
      name,
      asks,
    }: {
      name: string;
      asks: { where: string; find: string; sort: string; columns: string[]; group: string } | null;
    }) => {
      const params = { params: { path: { job, view: name } } };
      return need<unknown>(
        asks
          ? api.PUT("/api/v1/jobs/{job}/views/{view}", { ...params, body: asks })
          : api.DELETE("/api/v1/jobs/{job}/views/{view}", params),
      );
    },
    onSuccess: () => client.invalidateQueries({ queryKey: key("views", job) }),
  });
}

/** What would do with less; worked out when it is asked for. */
export const useReserve = (job: string, below: number, wanted: boolean) =>
  useQuery({
    queryKey: key("reserve", job, below),
    enabled: wanted,
    queryFn: ({ signal }) =>
      need<Reserves>(
        api.GET("/api/v1/jobs/{job}/reserve", { params: { path: { job }, query: { below, where: "" } }, signal }),
      ),
  });
