import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, need } from "./client";
import { key } from "./keys";
import type { DesignChanges, DesignInJob, HouseDesign, HouseDesigns, WrittenDesign } from "./types";

/** What designs of the house are looked for by. */
export interface Sought {
  text: string;
  standard: string;
  framing: string;
  tag: string;
  V: string;
  state: string;
  sort: string;
}

const at = (design: { name: string; number: number }) => ({
  params: { path: { name: design.name, number: design.number } },
});

/** The first of those that are sought, and how many there are. */
export const useLibrary = (sought: Sought) =>
  useQuery({
    queryKey: key("designs", sought),
    queryFn: ({ signal }) => {
      const said = Object.fromEntries(Object.entries(sought).filter(([, value]) => value));
      return need<HouseDesigns>(api.GET("/api/v1/designs", { params: { query: said as never }, signal }));
    },
    placeholderData: keepPreviousData,
    retry: false,
  });

export const useHouseDesign = (name: string, number: number) =>
  useQuery({
    queryKey: key("design", name, number),
    queryFn: () => need<WrittenDesign>(api.GET("/api/v1/designs/{name}/{number}", at({ name, number }))),
    enabled: Boolean(name && number),
    placeholderData: keepPreviousData,
    retry: false,
  });

/** Keep a draft: of a trial, or of a connection of a job. */
export function useKeepDesign() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ name, body }: { name: string; body: Record<string, unknown> }) =>
      need<WrittenDesign>(api.PUT("/api/v1/designs/{name}", { params: { path: { name } }, body: body as never })),
    onSuccess: () => renewed(client),
  });
}

/** Sign one, or withdraw it. */
export function useDesignState() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ design, state }: { design: HouseDesign; state: "house" | "withdrawn" }) =>
      need<WrittenDesign>(api.POST("/api/v1/designs/{name}/{number}/state", { ...at(design), body: { state } })),
    onSuccess: () => renewed(client),
  });
}

/** Which connections of a job it would hold. */
export const useDesignInJob = () =>
  useMutation({
    mutationFn: ({ design, job, fields }: { design: HouseDesign; job: string; fields: Record<string, string> }) =>
      need<DesignInJob>(
        api.POST("/api/v1/designs/{name}/{number}/in-job", { ...at(design), body: { job, fields, fits: true } }),
      ),
  });

/** What a decision for it changes on a connection. */
export const useDesignChanges = (
  design: HouseDesign,
  job: string,
  connection: string,
  fields: Record<string, string>,
) =>
  useQuery({
    queryKey: key("design-changes", design.called, job, connection, fields),
    queryFn: () =>
      need<DesignChanges>(
        api.POST("/api/v1/designs/{name}/{number}/changes", { ...at(design), body: { job, connection, fields } }),
      ),
    retry: false,
    gcTime: 0, // each time as it stands then
  });

function renewed(client: ReturnType<typeof useQueryClient>) {
  client.invalidateQueries({ queryKey: key("designs") });
  client.invalidateQueries({ queryKey: key("design") });
}
