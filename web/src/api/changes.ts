import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, need } from "./client";
import { key } from "./keys";
import { useRefresh } from "./queries";
import type { Changed, Compared, Standards, Stepped, Steps, Sweep } from "./types";

export interface Alternative {
  name: string;
  standard: string;
  parameters: Record<string, string>;
}

/** Every standard with the framing conditions that it goes with. */
export function useStandards(job = "") {
  return useQuery({
    queryKey: key("standards", job),
    queryFn: () => need<Standards>(api.GET("/api/v1/standards", { params: { query: { job } } })),
    staleTime: Number.POSITIVE_INFINITY,
  });
}

/** What stands beside other standards or sizes; worked out again when the connection changes. */
export function useAlternatives(job: string, connection: string, version: number, alternatives: Alternative[]) {
  return useQuery({
    queryKey: key("alternatives", job, connection, version, alternatives),
    queryFn: ({ signal }) =>
      need<Compared>(
        api.POST("/api/v1/jobs/{job}/connections/{connection}/alternatives", {
          params: { path: { job, connection } },
          body: { alternatives },
          signal,
        }),
      ),
    enabled: alternatives.length > 0,
    retry: false,
  });
}

/** A connection with its own forces over lists of values; nothing is kept. */
export const sweepConnection = (
  job: string,
  connection: string,
  values: Record<string, string | string[]>[],
  order: string,
  stop: string,
  signal: AbortSignal,
) =>
  need<Sweep>(
    api.POST("/api/v1/jobs/{job}/connections/{connection}/sweep", {
      params: { path: { job, connection } },
      body: { values, order, stop, parameters: {} },
      signal,
    }),
  );

/** One size with everything that a ladder climbed held as it stands, each by a decision too; shown (`preview`) or kept. */
export const changeAndHold = (
  job: string,
  connection: string,
  wanted: {
    parameter: string;
    value: string;
    reason: string;
    cause: string;
    both: boolean;
    preview: boolean;
    version: number;
  },
) =>
  need<Changed>(
    api.POST("/api/v1/jobs/{job}/connections/{connection}/changes", {
      params: { path: { job, connection } },
      headers: { "If-Match": `"${wanted.version}"` },
      body: {
        changes: { [wanted.parameter]: wanted.value },
        take: "",
        reason: wanted.reason,
        cause: wanted.cause,
        preview: wanted.preview,
        drawing: wanted.preview,
        both: wanted.both,
        hold: true,
      },
    }),
  );

/** Several sizes, or a standard, kept with one reason; or those of another connection taken over. */
export function useChange(job: string, connection: string, version: number) {
  const refresh = useRefresh(job);
  const client = useQueryClient();
  return useMutation({
    mutationFn: (wanted: {
      changes?: Record<string, string>;
      take?: string;
      reason: string;
      cause?: string;
      both?: boolean;
    }) =>
      need<Changed>(
        api.POST("/api/v1/jobs/{job}/connections/{connection}/changes", {
          params: { path: { job, connection } },
          headers: { "If-Match": `"${version}"` },
          body: {
            changes: wanted.changes ?? {},
            take: wanted.take ?? "",
            reason: wanted.reason,
            cause: wanted.cause ?? "",
            preview: false,
            drawing: false,
            both: wanted.both ?? false,
            hold: false,
          },
        }),
      ),
    onSuccess: () => {
      refresh();
      client.invalidateQueries({ queryKey: key("steps", job) });
    },
  });
}

/** What this person can go back over, and forward to. */
export function useSteps(job: string, moved: unknown) {
  return useQuery({
    queryKey: key("steps", job, moved),
    queryFn: () => need<Steps>(api.GET("/api/v1/jobs/{job}/steps", { params: { path: { job } } })),
  });
}

export function useStep(job: string) {
  const refresh = useRefresh(job);
  const client = useQueryClient();
  return useMutation({
    mutationFn: (way: "back" | "forward") =>
      need<Stepped>(api.POST("/api/v1/jobs/{job}/steps/{way}", { params: { path: { job, way } } })),
    onSuccess: () => {
      refresh();
      client.invalidateQueries({ queryKey: key("steps", job) });
    },
  });
}
