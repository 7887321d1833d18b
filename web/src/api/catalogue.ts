import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, need } from "./client";
import { key } from "./keys";
import type { CatalogueEntries, CatalogueEntry, Grade, Section } from "./types";

type Of = Pick<CatalogueEntry, "kind" | "name">;
const at = ({ kind, name }: Of) => ({ params: { path: { kind, name } } });

/** What the house has beside the shipped tables, and what each kind takes. */
export const useCatalogue = () =>
  useQuery({
    queryKey: key("catalogue"),
    queryFn: () => need<CatalogueEntries>(api.GET("/api/v1/catalogue")),
    retry: false,
  });

/** Sections and grades that can be named now, with a part of their name. */
export const useNamed = (text: string) =>
  useQuery({
    queryKey: key("catalogue-named", text),
    enabled: text.trim() !== "",
    queryFn: async ({ signal }) => {
      const query = { text, limit: 12 };
      const [sections, grades] = await Promise.all([
        need<{ items: Section[]; total: number }>(api.GET("/api/v1/sections", { params: { query }, signal })),
        need<{ items: Grade[] }>(api.GET("/api/v1/grades", { signal })),
      ]);
      const like = text.replace(/\s/g, "").toUpperCase();
      return { ...sections, grades: grades.items.filter((one) => one.name.toUpperCase().includes(like)) };
    },
    placeholderData: keepPreviousData,
  });

export interface Draft extends Of {
  values: Record<string, string>;
  source: string;
  job: string;
}

/** Keep a draft of one. */
export function usePutEntry() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ kind, name, ...body }: Draft) =>
      need<CatalogueEntry>(api.PUT("/api/v1/catalogue/{kind}/{name}", { ...at({ kind, name }), body })),
    onSuccess: () => renewed(client),
  });
}

/** An administrator's word on one; no `state` takes a draft away. */
export function useReviewEntry() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ entry, state }: { entry: Of; state: "approved" | "retired" | null }) =>
      need<unknown>(
        state
          ? api.POST("/api/v1/catalogue/{kind}/{name}/review", { ...at(entry), body: { state } })
          : api.DELETE("/api/v1/catalogue/{kind}/{name}", at(entry)),
      ),
    onSettled: () => renewed(client),
  });
}

/** What offers its names, and what was made of it, is read again: it may stand anywhere. */
const renewed = (client: ReturnType<typeof useQueryClient>) => client.invalidateQueries();
