import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, need } from "./client";
import type { Connection, Job, Jobs, Me, Model, Override, Revision, Row, Rows, Run, Runs } from "./types";

const at = (job: string) => ({ params: { path: { job } } });

export const useMe = () =>
  useQuery({ queryKey: ["me"], queryFn: () => need<Me>(api.GET("/api/v1/me")), retry: false, staleTime: 60_000 });

export const useJobs = () =>
  useQuery({ queryKey: ["jobs"], queryFn: async () => (await need<Jobs>(api.GET("/api/v1/jobs"))).items });

export const useJob = (job: string) =>
  useQuery({ queryKey: ["job", job], queryFn: () => need<Job>(api.GET("/api/v1/jobs/{job}", at(job))) });

export const useModel = (job: string) =>
  useQuery({ queryKey: ["model", job], queryFn: () => need<Model>(api.GET("/api/v1/jobs/{job}/model", at(job))) });

export const useAudit = (job: string) =>
  useQuery({ queryKey: ["audit", job], queryFn: () => need<Revision>(api.GET("/api/v1/jobs/{job}/audit", at(job))) });

export const useConnections = (job: string) =>
  useQuery({
    queryKey: ["connections", job],
    queryFn: async () => {
      const found: Row[] = [];
      for (let cursor: number | null = 0; cursor !== null; ) {
        const query = { limit: 5000, cursor };
        const page: Rows = await need(api.GET("/api/v1/jobs/{job}/connections", { params: { path: { job }, query } }));
        found.push(...page.items);
        cursor = page.next;
      }
      return found;
    },
  });

export const useConnection = (job: string, connection: string) =>
  useQuery({
    queryKey: ["connection", job, connection],
    queryFn: () =>
      need<Connection>(
        api.GET("/api/v1/jobs/{job}/connections/{connection}", { params: { path: { job, connection } } }),
      ),
  });

export const useRuns = (job: string) =>
  useQuery({
    queryKey: ["runs", job],
    queryFn: async () => (await need<Runs>(api.GET("/api/v1/jobs/{job}/runs", at(job)))).items,
    refetchInterval: (query) =>
      query.state.data?.[0] && ["queued", "running"].includes(query.state.data[0].state) ? 400 : false,
  });

/** Everything of the job is read again after a change. */
export function useRefresh(job: string) {
  const client = useQueryClient();
  return () => {
    for (const name of ["job", "model", "connections", "connection", "runs"])
      client.invalidateQueries({ queryKey: [name, job] });
  };
}

export function useStartRun(job: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (verify: boolean) =>
      need<Run>(api.POST("/api/v1/jobs/{job}/runs", { ...at(job), body: { verify, where: "" } })),
    onSettled: () => client.invalidateQueries({ queryKey: ["runs", job] }),
  });
}

export function useCancelRun(job: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (run: number) =>
      need<Run>(api.POST("/api/v1/jobs/{job}/runs/{run}/cancel", { params: { path: { job, run } } })),
    onSettled: () => client.invalidateQueries({ queryKey: ["runs", job] }),
  });
}

export interface Wanted {
  parameter: string;
  value: string;
  reason: string;
  preview: boolean;
  version: number;
}

export const setOverride = (job: string, connection: string, wanted: Wanted) =>
  need<Override>(
    api.POST("/api/v1/jobs/{job}/connections/{connection}/overrides", {
      params: { path: { job, connection } },
      headers: { "If-Match": `"${wanted.version}"` },
      body: { parameter: wanted.parameter, value: wanted.value, reason: wanted.reason, preview: wanted.preview },
    }),
  );

export const clearOverride = (job: string, override: number, reason: string) =>
  need<Override>(
    api.DELETE("/api/v1/jobs/{job}/overrides/{override}", {
      params: { path: { job, override }, query: { reason } as never },
    }),
  );

export const signIn = (name: string, password: string) =>
  need<Me>(api.POST("/api/v1/session", { body: { name, password, label: "" } }));

export const signOut = () => need<void>(api.DELETE("/api/v1/session"));
