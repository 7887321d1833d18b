import { keepPreviousData, useMutation, useQuery } from "@tanstack/react-query";
import { api, need } from "./client";
import { key } from "./keys";
import type { Capacity, Designs, JointSolids, OfConnection, Section, Sweep, TrialAnswer, TrialRemedies } from "./types";

/** A trial in its own form, as the file has it. */
export type Form = Record<string, unknown>;
export type Units = "us" | "si";

/** What comes of a trial as it stands; what was there before is shown until it is. Its drawing, which takes longer, is
 *  asked apart: the verdict does not wait for it. */
export const useTried = (form: Form, units: Units, sound: boolean) => useTrial(form, units, false, sound);
export const useDrawn = (form: Form, units: Units, sound: boolean) => useTrial(form, units, true, sound);

const useTrial = (form: Form, units: Units, drawn: boolean, sound: boolean) =>
  useQuery({
    queryKey: key("bench-tried", form, units, drawn),
    queryFn: ({ signal }) =>
      need<TrialAnswer>(api.POST("/api/v1/trial", { body: { ...form, units, trace: !drawn, drawn } as never, signal })),
    placeholderData: keepPreviousData,
    enabled: sound,
    retry: false,
    staleTime: Number.POSITIVE_INFINITY,
  });

/** It in 3D. */
export const useTrialSolids = (form: Form, units: Units, sound: boolean) =>
  useQuery({
    queryKey: key("bench-solids", form, units),
    queryFn: ({ signal }) =>
      need<JointSolids>(api.POST("/api/v1/trial/solids", { body: { ...form, units } as never, signal })),
    placeholderData: keepPreviousData,
    enabled: sound,
    retry: false,
    staleTime: Number.POSITIVE_INFINITY,
  });

/** What would make it pass, where it fails. */
export const useTrialRemedies = (form: Form, units: Units, wanted: boolean) =>
  useQuery({
    queryKey: key("bench-remedies", form, units),
    queryFn: async ({ signal }) =>
      (await need<TrialRemedies>(api.POST("/api/v1/trial/remedies", { body: { ...form, units } as never, signal })))
        .items,
    enabled: wanted,
    retry: false,
    staleTime: Number.POSITIVE_INFINITY,
  });

/** It over lists of values for its sizes. */
export const sweepTrial = (form: Form, units: Units, sweep: Record<string, unknown>, signal: AbortSignal) =>
  need<Sweep>(api.POST("/api/v1/sweep", { body: { ...form, units, sweep } as never, signal }));

/** What its standard holds on a range of sections, as a file of `handrail capacity` asks. */
export const useCapacity = () =>
  useMutation({
    mutationFn: (asked: Record<string, unknown>) =>
      need<Capacity>(api.POST("/api/v1/capacity", { body: asked as never })),
  });

/** Several designs of it. */
export const useDesigns = () =>
  useMutation({
    mutationFn: async ({ form, units, hold, target }: { form: Form; units: Units; hold: string[]; target: number }) =>
      (await need<Designs>(api.POST("/api/v1/trial/sized", { body: { ...form, units, hold, target } as never }))).items,
  });

/** Sections whose name holds a text, the lightest first. */
export const useSections = (text: string) =>
  useQuery({
    queryKey: key("bench-sections", text),
    queryFn: async () => {
      const found = await need<{ items: Section[] }>(
        api.GET("/api/v1/sections", { params: { query: { text, limit: 400 } } }),
      );
      return found.items.sort((a, b) => a.mass - b.mass);
    },
    enabled: text.trim().length > 1,
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
  });

export const useGrades = () =>
  useQuery({
    queryKey: key("bench-grades"),
    queryFn: async () =>
      (await need<{ items: { name: string }[] }>(api.GET("/api/v1/grades"))).items.map((g) => g.name),
    staleTime: Number.POSITIVE_INFINITY,
  });

/** A connection of a job, to be tried here. */
export const useAsTrial = (job: string, connection: string) =>
  useQuery({
    queryKey: key("bench-of", job, connection),
    queryFn: () =>
      need<OfConnection>(
        api.GET("/api/v1/jobs/{job}/connections/{connection}/trial", { params: { path: { job, connection } } }),
      ),
    enabled: Boolean(job && connection),
    retry: false,
    gcTime: 0, // each time as it stands then
    staleTime: Number.POSITIVE_INFINITY, // and what is being tried stays
  });
