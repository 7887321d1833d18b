import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, need } from "./client";
import { key } from "./keys";
import type { Profile } from "./types";

/** How the house prints: every profile. */
export const useProfiles = () =>
  useQuery({
    queryKey: key("profiles"),
    queryFn: async () => (await need<{ items: Profile[] }>(api.GET("/api/v1/profiles"))).items,
  });

export interface Printing {
  firm: string[];
  registration: string;
  emblem: string | null;
  sections: string[];
  lines: string;
}

/** Keep a profile, in place of what was called so. */
export function usePutProfile() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ name, ...body }: Printing & { name: string }) =>
      need<Profile>(api.PUT("/api/v1/profiles/{profile}", { params: { path: { profile: name } }, body })),
    onSuccess: () => queries.invalidateQueries({ queryKey: key("profiles") }),
  });
}
