import { useMutation, useQuery } from "@tanstack/react-query";
import { api, need } from "./client";
import { key } from "./keys";
import { useRefresh } from "./queries";
import type { Asked, AskedList } from "./types";

const at = (job: string) => ({ params: { path: { job } } });
const one = (job: string, number: number) => ({ params: { path: { job, number } } });

/** What is asked of the engineer of record: all of a job, or what concerns a connection. */
export const useAsked = (job: string, connection = "") =>
  useQuery({
    queryKey: key("asked", job, connection),
    queryFn: () =>
      need<AskedList>(
        api.GET("/api/v1/jobs/{job}/queries", {
          params: { path: { job }, query: { state: "", connection } },
        }),
      ),
  });

export interface NewAsked {
  title: string;
  words: string;
  to: string;
  due: string;
  holds: boolean;
  of: { kind: string; name: string }[];
}

/** Ask something. */
export function useAsk(job: string) {
  const refresh = useRefresh(job);
  return useMutation({
    mutationFn: (body: NewAsked) =>
      need<Asked>(api.POST("/api/v1/jobs/{job}/queries", { ...at(job), body: { ...body, view: {} } })),
    onSuccess: () => refresh(["asked", "connection"]),
  });
}

export type Step = "answer" | "close" | "again";

/** Write down what was answered, close it, or ask it again. */
export function useAskedStep(job: string) {
  const refresh = useRefresh(job);
  return useMutation({
    mutationFn: ({ number, step, words }: { number: number; step: Step; words: string }) =>
      step === "answer"
        ? need<Asked>(api.POST("/api/v1/jobs/{job}/queries/{number}/answer", { ...one(job, number), body: { words } }))
        : step === "close"
          ? need<Asked>(api.POST("/api/v1/jobs/{job}/queries/{number}/close", { ...one(job, number), body: { words } }))
          : need<Asked>(
              api.POST("/api/v1/jobs/{job}/queries/{number}/again", { ...one(job, number), body: { words } }),
            ),
    onSuccess: () => refresh(["asked", "connection"]),
  });
}

/** Take in a BCF file. */
export function useTakeIn(job: string) {
  const refresh = useRefresh(job);
  return useMutation({
    mutationFn: async (file: File) => {
      const response = await fetch(`/api/v1/jobs/${encodeURIComponent(job)}/queries.bcf`, {
        method: "POST",
        headers: { "X-Handrail": "1", "Content-Type": "application/octet-stream" },
        body: file,
      });
      const body = await response.json();
      if (!response.ok) throw new Error(body.detail ?? "It could not be taken in.");
      return body as { new: number[]; changed: number[]; same: number[] };
    },
    onSuccess: () => refresh(["asked"]),
  });
}
