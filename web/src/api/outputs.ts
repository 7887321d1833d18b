import { useMutation, useQuery } from "@tanstack/react-query";
import { api, need } from "./client";
import { key } from "./keys";
import type { HouseMap, OutputTable } from "./types";

/** The house's maps that rows go out by. */
export const useOutputMaps = () =>
  useQuery({
    queryKey: key("house-maps"),
    queryFn: async () =>
      (await need<{ items: HouseMap[] }>(api.GET("/api/v1/maps"))).items.filter((one) => one.way === "out"),
  });

/** The text of one of them; of none, what is proposed from the map that the model came in through. */
export const useOutputText = (job: string) =>
  useMutation({
    mutationFn: async (name: string) =>
      name
        ? (await need<{ text: string }>(api.GET("/api/v1/maps/{name}", { params: { path: { name } } }))).text
        : (await need<{ map: string }>(api.GET("/api/v1/jobs/{job}/output", { params: { path: { job } } }))).map,
  });

/** What a map writes of the job: the first rows of each table; asked again whenever the job has changed. */
export const useOutputTried = (job: string, map: string) =>
  useQuery({
    queryKey: key("output-tried", job, map),
    enabled: map !== "",
    retry: false,
    queryFn: async () =>
      (
        await need<{ tables: OutputTable[] }>(
          api.POST("/api/v1/jobs/{job}/output/try", { params: { path: { job } }, body: { map } }),
        )
      ).tables,
  });
