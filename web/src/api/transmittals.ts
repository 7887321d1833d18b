import { useMutation, useQuery } from "@tanstack/react-query";
import { api, need } from "./client";
import { key } from "./keys";
import { useRefresh } from "./queries";
import type { Transmittal, TransmittalInFull } from "./types";

export interface Wanted {
  to: string;
  why: string;
  where: string;
  anyway: string;
}

const send = (job: string, wanted: Wanted, preview: boolean) =>
  need<TransmittalInFull>(
    api.POST("/api/v1/jobs/{job}/transmittals", { params: { path: { job } }, body: { ...wanted, preview } }),
  );

/** All of a job, the newest first. */
export const useTransmittals = (job: string) =>
  useQuery({
    queryKey: key("transmittals", job),
    queryFn: async () =>
      (await need<{ items: Transmittal[] }>(api.GET("/api/v1/jobs/{job}/transmittals", { params: { path: { job } } })))
        .items,
  });

/** One, with what was new, changed or withdrawn in it. */
export const useTransmittal = (job: string, number: number) =>
  useQuery({
    queryKey: key("transmittal", job, number),
    queryFn: () =>
      need<TransmittalInFull>(
        api.GET("/api/v1/jobs/{job}/transmittals/{number}", { params: { path: { job, number } } }),
      ),
  });

/** What would be in one; nothing is made. */
export const useWouldBe = (job: string, where: string, anyway: boolean) =>
  useQuery({
    queryKey: key("transmittal-preview", job, where, anyway),
    queryFn: () => send(job, { to: "-", why: "-", where, anyway: anyway ? "-" : "" }, true),
    retry: false,
  });

/** Freeze one. */
export function useSend(job: string) {
  const refresh = useRefresh(job);
  return useMutation({ mutationFn: (wanted: Wanted) => send(job, wanted, false), onSuccess: () => refresh() });
}
