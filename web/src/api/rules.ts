import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, need, Refused } from "./client";
import { key } from "./keys";
import { useRefresh } from "./queries";
import type {
  Consolidation,
  Differing,
  HouseRulebook,
  Language,
  Rulebook,
  RulebookRevision,
  RunChanged,
  Said,
  Schedule,
  Tried,
  TriedOn,
  WhyRule,
} from "./types";

const at = (job: string) => ({ params: { path: { job } } });

/** A rulebook as it is written, with the CSV files of its tables. */
export interface Text {
  text: string;
  files: Record<string, string>;
}

/** Something that is wrong in a rulebook, at its place. */
export interface Mistake {
  line: number;
  column: number;
  message: string;
}

export const useRulebook = (job: string) =>
  useQuery({
    queryKey: key("rulebook", job),
    queryFn: ({ signal }) => need<Rulebook>(api.GET("/api/v1/jobs/{job}/rulebook", { ...at(job), signal })),
  });

export const useLanguage = () =>
  useQuery({
    queryKey: key("rulebook-language"),
    queryFn: () => need<Language>(api.GET("/api/v1/rulebook-language")),
    staleTime: Number.POSITIVE_INFINITY,
  });

/** What a rulebook would make of the job, or its mistakes. */
export async function tryRulebook(
  job: string,
  given: Text,
  compare: boolean,
  signal?: AbortSignal,
): Promise<Tried | Mistake[]> {
  const { data, error, response } = await api.POST("/api/v1/jobs/{job}/rulebook/try", {
    ...at(job),
    body: { ...given, compare },
    signal,
  });
  if (response.ok) return data as Tried;
  const said = error as { detail?: string; problems?: Mistake[] } | undefined;
  if (said?.problems?.some((one) => one.line)) return said.problems;
  throw new Refused(response.status, said?.detail ?? `The service answered ${response.status}.`);
}

export const useTried = (job: string, given: Text | null, compare = false) =>
  useQuery({
    queryKey: key("rulebook-tried", job, given, compare),
    enabled: given !== null,
    queryFn: ({ signal }) => tryRulebook(job, given as Text, compare, signal),
    placeholderData: (before) => before,
    gcTime: 10_000,
    retry: false,
  });

type Change =
  | { move: { rule: number; to: number } }
  | { like: { connection: string; free: string[]; sections: boolean } }
  | { default: string }
  | { cell: { table: string; row: number; column: string; value: string } };

/** A rulebook's text with one change; comments stay. */
export const editRulebook = (job: string, given: Text, change: Change) =>
  need<Text>(api.POST("/api/v1/jobs/{job}/rulebook/edit", { ...at(job), body: { ...given, ...change } as never }));

export function useAdopt(job: string) {
  const refresh = useRefresh(job);
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ given, name, seen }: { given: Text; name: string; seen: number }) =>
      need<Rulebook>(
        api.PUT("/api/v1/jobs/{job}/rulebook", {
          ...at(job),
          body: { ...given, name },
          headers: { "If-Match": `"${seen}"` },
        }),
      ),
    onSuccess: (adopted) => {
      client.setQueryData(["rulebook", job], adopted);
      refresh();
    },
  });
}

export function useGoBack(job: string) {
  const refresh = useRefresh(job);
  return useMutation({
    mutationFn: (number: number) =>
      need<Rulebook>(api.POST("/api/v1/jobs/{job}/rulebook/back", { ...at(job), body: { number, name: "" } })),
    onSuccess: () => refresh(),
  });
}

export const useTriedOn = (
  job: string,
  asked: { connection: string; formula: string; table: string } & Partial<Text>,
) =>
  useQuery({
    queryKey: key("rulebook-on", job, asked),
    enabled: asked.connection !== "",
    queryFn: () =>
      need<TriedOn>(
        api.POST("/api/v1/jobs/{job}/rulebook/try-on", {
          ...at(job),
          body: { text: "", files: {}, rule: "", ...asked },
        }),
      ),
    placeholderData: (before) => before,
    retry: false,
  });

export const useWhy = (job: string, connection: string, wanted: boolean) =>
  useQuery({
    queryKey: key("why", job, connection),
    enabled: wanted,
    queryFn: () =>
      need<WhyRule>(
        api.GET("/api/v1/jobs/{job}/connections/{connection}/rule", { params: { path: { job, connection } } }),
      ),
  });

/** What a written rulebook says of practice, and its tables. */
export const useSaid = (job: string, given: Text, sound: boolean) =>
  useQuery({
    queryKey: key("rulebook-said", job, given),
    enabled: sound,
    queryFn: () => need<Said>(api.POST("/api/v1/jobs/{job}/rulebook/read", { ...at(job), body: given })),
    placeholderData: (before) => before,
    gcTime: 10_000,
    retry: false,
  });

export const useRulebookRevisions = (job: string) =>
  useQuery({
    queryKey: key("rulebook-revisions", job),
    queryFn: async () =>
      (await need<{ items: RulebookRevision[] }>(api.GET("/api/v1/jobs/{job}/rulebook/revisions", at(job)))).items,
  });

export const useDiffering = (job: string, old: number, now: number) =>
  useQuery({
    queryKey: key("rulebook-differing", job, old, now),
    enabled: old > 0,
    queryFn: () =>
      need<Differing>(
        api.GET("/api/v1/jobs/{job}/rulebook/compare", { params: { path: { job }, query: { old, new: now } } }),
      ),
  });

export const useHouse = (wanted: boolean) =>
  useQuery({
    queryKey: key("house"),
    enabled: wanted,
    queryFn: async () => (await need<{ items: HouseRulebook[] }>(api.GET("/api/v1/house"))).items,
    retry: false,
  });

export function useReviewHouse() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ name, number, state }: { name: string; number: number; state: "approved" | "retired" }) =>
      need<HouseRulebook>(
        api.POST("/api/v1/house/{name}/{number}/review", { params: { path: { name, number } }, body: { state } }),
      ),
    onSuccess: () => client.invalidateQueries({ queryKey: key("house") }),
  });
}

export function usePutHouse() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ name, given, note }: { name: string; given: Text; note: string }) =>
      need<HouseRulebook>(api.PUT("/api/v1/house/{name}", { params: { path: { name } }, body: { ...given, note } })),
    onSuccess: () => client.invalidateQueries({ queryKey: key("house") }),
  });
}

export const useSchedule = (job: string, where: string) =>
  useQuery({
    queryKey: key("schedule", job, where),
    queryFn: ({ signal }) =>
      need<Schedule>(api.GET("/api/v1/jobs/{job}/schedule", { params: { path: { job }, query: { where } }, signal })),
    placeholderData: (before) => before,
  });

/** What fewer marks would cost. */
export const useFewer = (job: string, wanted: boolean) =>
  useQuery({
    queryKey: key("fewer", job),
    enabled: wanted,
    queryFn: ({ signal }) => need<Consolidation>(api.GET("/api/v1/jobs/{job}/schedule/fewer", { ...at(job), signal })),
  });

export const useRunChanges = (job: string, run: number, wanted: boolean) =>
  useQuery({
    queryKey: key("run-changes", job, run),
    enabled: wanted,
    queryFn: () =>
      need<RunChanged>(api.GET("/api/v1/jobs/{job}/runs/{run}/changes", { params: { path: { job, run } } })),
  });
