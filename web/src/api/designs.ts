import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { saved } from "../saved";
import { api, need } from "./client";
import { key } from "./keys";
import type {
  DesignChanges,
  DesignInJob,
  DesignsIn,
  FoundDesigns,
  HouseDesign,
  HouseDesigns,
  WrittenDesign,
} from "./types";

/** What designs of the house are looked for by. */
export interface Sought {
  text: string;
  standard: string;
  framing: string;
  tag: string;
  V: string;
  state: string;
  sort: string;
  units: "us" | "si";
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

export const useHouseDesign = (name: string, number: number, units: "us" | "si") =>
  useQuery({
    queryKey: key("design", name, number, units),
    queryFn: () =>
      need<WrittenDesign>(
        api.GET("/api/v1/designs/{name}/{number}", {
          params: { path: { name, number }, query: { units } },
        }),
      ),
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

/** Put a file to a design, or take one of a draft away. */
export function useDesignFile(design: HouseDesign) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ file, gone }: { file: File; gone?: never } | { file?: never; gone: number }) => {
      if (!file) {
        const path = { name: design.name, number: design.number, file: gone };
        return need<unknown>(api.DELETE("/api/v1/designs/{name}/{number}/files/{file}", { params: { path } }));
      }
      const form = new FormData();
      form.append("file", file, file.name);
      return need<unknown>(
        api.POST("/api/v1/designs/{name}/{number}/files", {
          ...at(design),
          body: form as never,
          bodySerializer: () => form,
        }),
      );
    },
    onSettled: () => renewed(client),
  });
}

/** Another title, note or tags, or who sees it. */
export function useAboutDesign(design: HouseDesign) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (said: { title: string; note: string; tags: string[]; seen_by: string[] }) =>
      need<WrittenDesign>(api.POST("/api/v1/designs/{name}/{number}/about", { ...at(design), body: said })),
    onSuccess: () => renewed(client),
  });
}

/** It as a file for another service, saved; with what is ticked. */
export const useSendDesign = (design: HouseDesign) =>
  useMutation({
    mutationFn: async (ticked: Record<string, boolean>) => {
      const params = { path: { name: design.name, number: design.number }, query: ticked as never };
      const { file, text } = await need<{ file: string; text: string }>(
        api.GET("/api/v1/designs/{name}/{number}/file", { params }),
      );
      saved(new Blob([text], { type: "application/json" }), file);
    },
  });

/** Drafts from a file: another service's design, or a table of published ones. What came, in words; which, if one. */
export function useTakeDesigns() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async (file: File) => {
      if (/\.json$/i.test(file.name)) {
        const body = { text: await file.text(), name: "" };
        const one = await need<WrittenDesign>(api.POST("/api/v1/designs/file", { body }));
        return { words: `${one.called} is a draft of yours`, one };
      }
      const bytes = new Uint8Array(await file.arrayBuffer());
      const letters = Array.from(bytes, (byte) => String.fromCharCode(byte)).join("");
      const body = { file: file.name, content: btoa(letters), tags: [] };
      const came = await need<DesignsIn>(api.POST("/api/v1/designs/table", { body }));
      return {
        words: `${came.names.length} drafts came in; ${came.checked} looked at by our own code, ${came.left} left`,
      };
    },
    onSuccess: () => renewed(client),
  });
}

/** Those roughly like a trial, tried under its actions. */
export const useLike = () =>
  useMutation({
    mutationFn: (asked: { form: Record<string, unknown>; units: "us" | "si"; share: number; degrees: number }) => {
      const { form, ...near } = asked;
      const body = { trial: form, standard: "", tag: "", limit: 12, ...near };
      return need<FoundDesigns>(api.POST("/api/v1/designs/find", { body }));
    },
  });

/** One on its members, as the Bench has it. */
export const useTrialOf = () =>
  useMutation({
    mutationFn: async (design: HouseDesign) =>
      (await need<WrittenDesign>(api.GET("/api/v1/designs/{name}/{number}", at(design)))).trial,
  });

function renewed(client: ReturnType<typeof useQueryClient>) {
  client.invalidateQueries({ queryKey: key("designs") });
  client.invalidateQueries({ queryKey: key("design") });
}
