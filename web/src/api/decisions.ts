import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, need } from "./client";
import { key } from "./keys";
import { useRefresh } from "./queries";
import type { Attachment, Attachments, DecidedForMany, Decisions, EarlierDesigns, Reviewed, Verified } from "./types";

const at = (job: string) => ({ params: { path: { job } } });

export type Act = "accept" | "return" | "confirm" | "clear";
export type Mark = "agrees" | "worse" | "carries";

export interface Asked {
  state?: string;
  author?: string;
  cause?: string;
  level?: string;
  where?: string;
  pattern?: string;
  limit?: number;
  mark?: "" | Mark;
}

/** Decisions against the rules, filtered, with how many of the whole job are in which state. */
export const useDecisions = (job: string, asked: Asked) =>
  useQuery({
    queryKey: key("decisions", job, asked),
    queryFn: () =>
      need<Decisions>(api.GET("/api/v1/jobs/{job}/overrides", { params: { path: { job }, query: asked as never } })),
    placeholderData: (before) => before,
  });

/** Accept, return, confirm or clear decisions in one go. */
export function useReview(job: string) {
  const refresh = useRefresh(job);
  return useMutation({
    mutationFn: (body: { act: Act; overrides: number[]; word: string }) =>
      need<Reviewed>(api.POST("/api/v1/jobs/{job}/overrides/review", { ...at(job), body })),
    onSuccess: () => refresh(),
  });
}

/** The shop's list of reasons. */
export const useCauses = () =>
  useQuery({
    queryKey: key("causes"),
    queryFn: async () => (await need<{ causes: string[] }>(api.GET("/api/v1/causes"))).causes,
    staleTime: 60_000,
  });

export interface ForMany {
  connections: string[];
  changes: Record<string, string>;
  reason: string;
  cause: string;
  skip: boolean;
  both: boolean;
}

export const decideForMany = (job: string, wanted: ForMany, preview: boolean) =>
  need<DecidedForMany>(
    api.POST("/api/v1/jobs/{job}/changes", {
      ...at(job),
      body: { where: "", pattern: "", slot: null, ...wanted, preview },
    }),
  );

export const useVerified = (job: string, wanted: boolean) =>
  useQuery({
    queryKey: key("verified", job),
    enabled: wanted,
    queryFn: () => need<Verified>(api.GET("/api/v1/jobs/{job}/ledger/verify", at(job))),
    staleTime: 0,
  });

export const useAttachments = (job: string, override: number, wanted: boolean) =>
  useQuery({
    queryKey: key("attachments", job, override),
    enabled: wanted,
    queryFn: async () =>
      (
        await need<Attachments>(
          api.GET("/api/v1/jobs/{job}/overrides/{override}/attachments", { params: { path: { job, override } } }),
        )
      ).items,
  });

export function useAttach(job: string, override: number) {
  const client = useQueryClient();
  const refresh = useRefresh(job);
  return useMutation({
    mutationFn: (file: File) => {
      const form = new FormData();
      form.append("file", file, file.name);
      return need<Attachment>(
        api.POST("/api/v1/jobs/{job}/overrides/{override}/attachments", {
          params: { path: { job, override } },
          body: form as never,
          bodySerializer: () => form,
        }),
      );
    },
    onSuccess: () => {
      client.invalidateQueries({ queryKey: key("attachments", job, override) });
      refresh();
    },
  });
}

/** Designs that pass between like members, here and in other jobs, tried on this connection. */
export const useEarlier = (job: string, connection: string, wanted: boolean) =>
  useQuery({
    queryKey: key("earlier", job, connection),
    enabled: wanted,
    staleTime: 60_000,
    retry: false,
    queryFn: () =>
      need<EarlierDesigns>(
        api.GET("/api/v1/jobs/{job}/connections/{connection}/earlier", {
          params: { path: { job, connection }, query: { exact: false } },
        }),
      ),
  });
