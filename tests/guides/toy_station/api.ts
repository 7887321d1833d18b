import { useQuery } from "@tanstack/react-query";
import { api, need } from "./client";
import { key } from "./keys";
import type { Progress } from "./types";

export const useShare = (job: string) =>
  useQuery({
    queryKey: key("share", job),
    queryFn: async () =>
      (await need<Progress>(api.GET("/api/v1/jobs/{job}/progress", { params: { path: { job } } }))).now,
  });
