import { useMutation, useQueries, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef } from "react";
import { useNavigate } from "react-router";
import type { Change } from "../import/map-shape";
import { api, need } from "./client";
import { type Kept, key, madeOld } from "./keys";
import { drawnOf } from "./model";
import type {
  Basis,
  Check,
  Combinations,
  Comparison,
  Component,
  Connection,
  Drawing,
  Figures,
  Finding,
  GroupInFull,
  Groups,
  Import,
  Imports,
  Job,
  Jobs,
  JointSolids,
  MadeOverride,
  Matrix,
  Me,
  ModelNames,
  ModelShape,
  ModelStates,
  Override,
  Parts,
  PatternBoundary,
  PatternInFull,
  PatternPoints,
  Patterns,
  Revision,
  Revisions,
  Row,
  Rows,
  Run,
  Runs,
  Survey,
  Understood,
} from "./types";

const at = (job: string) => ({ params: { path: { job } } });

const OPEN = ["queued", "running"];

export const useMe = () =>
  useQuery({ queryKey: key("me"), queryFn: () => need<Me>(api.GET("/api/v1/me")), retry: false, staleTime: 60_000 });

export const useJobs = () =>
  useQuery({ queryKey: key("jobs"), queryFn: async () => (await need<Jobs>(api.GET("/api/v1/jobs"))).items });

const LOOK = 4_000; // milliseconds between looks at whether somebody changed the job
const MANY = 5_000; // connections whose lists are megabytes: after somebody else's change they are read again
const SELDOM = 15_000; // no sooner than after so many milliseconds
const PAGES = madeOld("moves");
const LISTS = madeOld("seldom");

/** The job, looked at again all the while: what others change shows here without a reload. */
export function useJob(job: string) {
  const refresh = useRefresh(job);
  const found = useQuery({
    queryKey: key("job", job),
    queryFn: () => need<Job>(api.GET("/api/v1/jobs/{job}", at(job))),
    refetchInterval: LOOK,
  });
  const { moved, connections = 0 } = found.data ?? {};
  const was = useRef(moved);
  const soon = useRef(0);
  useEffect(() => {
    if (was.current && moved && was.current !== moved) {
      refresh(PAGES);
      if (!soon.current)
        soon.current = window.setTimeout(
          () => {
            soon.current = 0;
            refresh(LISTS);
          },
          connections > MANY ? SELDOM : 0,
        );
    }
    was.current = moved;
  }, [moved, connections, refresh]);
  return found;
}

/** The model as it is drawn. Its shape and its names are of a revision, and read once; how its connections stand is read
 *  again as the job moves. The names come last, and it is there before them. */
export function useModel(job: string, revision: number) {
  const part = { staleTime: Number.POSITIVE_INFINITY };
  const shape = useQuery({
    ...part,
    enabled: revision > 0,
    queryKey: key("model-shape", job, revision),
    queryFn: () => need<ModelShape>(api.GET("/api/v1/jobs/{job}/model/shape", at(job))),
  });
  const states = useQuery({
    enabled: revision > 0,
    queryKey: key("model", job, revision),
    queryFn: () => need<ModelStates>(api.GET("/api/v1/jobs/{job}/model/states", at(job))),
  });
  const names = useQuery({
    ...part,
    enabled: Boolean(shape.data && states.data),
    queryKey: key("model-names", job, revision),
    queryFn: () => need<ModelNames>(api.GET("/api/v1/jobs/{job}/model/names", at(job))),
  });
  const data = useMemo(
    () => shape.data && states.data && drawnOf(shape.data, states.data, names.data),
    [shape.data, states.data, names.data],
  );
  const refetch = () => {
    for (const one of [shape, states, names]) if (one.error) one.refetch();
  };
  return { data, error: shape.error ?? states.error ?? names.error, refetch };
}

/** What share of its own section each member end is asked for; looked up where that is what is coloured. */
export const useAsked = (job: string, revision: number, wanted: boolean) =>
  useQuery({
    queryKey: key("model-asked", job, revision),
    enabled: wanted && revision > 0,
    queryFn: async () =>
      (await need<{ share: (number | null)[] }>(api.GET("/api/v1/jobs/{job}/model/asked", at(job)))).share,
  });

export const useAudit = (job: string, wanted = true) =>
  useQuery({
    queryKey: key("audit", job),
    enabled: wanted,
    queryFn: () => need<Revision>(api.GET("/api/v1/jobs/{job}/audit", at(job))),
  });

/** Let a finding of the audit stand, with a reason. */
export function useAcknowledge(job: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ finding, reason, all }: { finding: Finding; reason: string; all: boolean }) => {
      const { code, node = "", member, combination, cause = "" } = finding;
      const body = all
        ? { code, reason, all, cause, node: "", member: "" }
        : { code, node, member: member || combination || "", reason, all, cause: "" };
      return need<Revision>(api.PUT("/api/v1/jobs/{job}/audit/acknowledged", { ...at(job), body }));
    },
    onSuccess: (found) => {
      client.setQueryData(["audit", job], found);
      client.invalidateQueries(); // what rests on a combination that may stand now is stale
    },
  });
}

export function useTakeBack(job: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ code, node = "", member, combination }: Finding) =>
      need<Revision>(
        api.DELETE("/api/v1/jobs/{job}/audit/acknowledged", {
          params: { path: { job }, query: { code, node, member: member || combination || "" } },
        }),
      ),
    onSuccess: (found) => {
      client.setQueryData(["audit", job], found);
      client.invalidateQueries();
    },
  });
}

export const useSurvey = (job: string) =>
  useQuery({
    queryKey: key("survey", job),
    queryFn: ({ signal }) => need<Survey>(api.GET("/api/v1/jobs/{job}/survey", { ...at(job), signal })),
  });

export const usePatterns = (job: string, wanted = true) =>
  useQuery({
    queryKey: key("patterns", job),
    enabled: wanted,
    queryFn: async ({ signal }) =>
      (await need<Patterns>(api.GET("/api/v1/jobs/{job}/patterns", { ...at(job), signal }))).items,
  });

export const usePattern = (job: string, pattern: string) =>
  useQuery({
    queryKey: key("pattern", job, pattern),
    queryFn: ({ signal }) =>
      need<PatternInFull>(
        api.GET("/api/v1/jobs/{job}/patterns/{pattern}", { params: { path: { job, pattern } }, signal }),
      ),
  });

/** Every check of a connection at every combination. */
export const useMatrix = (job: string, connection: string) =>
  useQuery({
    queryKey: key("connection", job, connection, "matrix"),
    queryFn: () =>
      need<Matrix>(
        api.GET("/api/v1/jobs/{job}/connections/{connection}/matrix", { params: { path: { job, connection } } }),
      ),
    retry: false,
  });

export const useMatrixCheck = (job: string, connection: string, [check, combination]: [number, number]) =>
  useQuery({
    queryKey: key("connection", job, connection, "matrix", check, combination),
    queryFn: () =>
      need<Check>(
        api.GET("/api/v1/jobs/{job}/connections/{connection}/matrix/check", {
          params: { path: { job, connection }, query: { check, combination } },
        }),
      ),
    retry: false,
  });

export const useBoundary = (job: string, pattern: string, slot: number, x: Component, y: Component) =>
  useQuery({
    queryKey: key("pattern", job, pattern, "boundary", slot, x, y),
    queryFn: ({ signal }) =>
      need<PatternBoundary>(
        api.GET("/api/v1/jobs/{job}/patterns/{pattern}/boundary", {
          params: { path: { job, pattern }, query: { slot, x, y } },
          signal,
        }),
      ),
  });

/** Put a joint beside another one in its pattern, take it out of its own (beside empty), or let it go where it belongs (no edit). */
export function useEditPattern(job: string) {
  const refresh = useRefresh(job);
  return useMutation({
    mutationFn: ({ joint, edit }: { joint: string; edit: { beside: string; reason: string } | null }) => {
      const where = { params: { path: { job, joint } } };
      return need<Patterns["items"][number]>(
        edit
          ? api.PUT("/api/v1/jobs/{job}/joints/{joint}/pattern", { ...where, body: edit })
          : api.DELETE("/api/v1/jobs/{job}/joints/{joint}/pattern", where),
      );
    },
    onSuccess: () => refresh(),
  });
}

export const useGroups = (job: string) =>
  useQuery({
    queryKey: key("groups", job),
    queryFn: async () => (await need<Groups>(api.GET("/api/v1/jobs/{job}/groups", at(job)))).items,
  });

export const useGroup = (job: string, group: string, wanted = true) =>
  useQuery({
    enabled: wanted,
    queryKey: key("groups", job, group),
    queryFn: () =>
      need<GroupInFull>(api.GET("/api/v1/jobs/{job}/groups/{group}", { params: { path: { job, group } } })),
  });

/** The connections of the group that an address names; nothing where it names none. */
export function useGroupOf(job: string, query: URLSearchParams) {
  const name = query.get("group") ?? "";
  const found = useGroup(job, name, name !== "").data;
  return name ? (found?.keys ?? []) : undefined;
}

/** Make a group, add to it or take out of it. */
export function usePutGroup(job: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({
      name,
      ...body
    }: {
      name: string;
      connections: string[];
      where?: string;
      how: "add" | "take" | "replace";
    }) =>
      need<GroupInFull>(
        api.PUT("/api/v1/jobs/{job}/groups/{group}", {
          params: { path: { job, group: name } },
          body: { where: "", ...body },
        }),
      ),
    onSuccess: () => client.invalidateQueries({ queryKey: key("groups", job) }),
  });
}

export function useDropGroup(job: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (group: string) =>
      need<unknown>(api.DELETE("/api/v1/jobs/{job}/groups/{group}", { params: { path: { job, group } } })),
    onSuccess: () => client.invalidateQueries({ queryKey: key("groups", job) }),
  });
}

/** Every action at one place of a pattern. */
export const usePoints = (job: string, pattern: string, slot: number) =>
  useQuery({
    queryKey: key("points", job, pattern, slot),
    queryFn: ({ signal }) =>
      need<PatternPoints>(
        api.GET("/api/v1/jobs/{job}/patterns/{pattern}/points", {
          params: { path: { job, pattern }, query: { slot } },
          signal,
        }),
      ),
  });

export const useRevisions = (job: string) =>
  useQuery({
    queryKey: key("revisions", job),
    queryFn: async () => (await need<Revisions>(api.GET("/api/v1/jobs/{job}/revisions", at(job)))).items,
  });

/** What changed from one revision to another. */
export const useComparison = (job: string, old: number, fresh: number, wanted = true) =>
  useQuery({
    queryKey: key("comparison", job, old, fresh),
    enabled: wanted,
    retry: false,
    queryFn: ({ signal }) =>
      need<Comparison>(
        api.GET("/api/v1/jobs/{job}/compare", { params: { path: { job }, query: { old, new: fresh } }, signal }),
      ),
  });

export const useCombinations = (job: string) =>
  useQuery({
    queryKey: key("combinations", job),
    queryFn: () => need<Combinations>(api.GET("/api/v1/jobs/{job}/combinations", at(job))),
  });

export function useGenerate(job: string) {
  return useMutation({
    mutationFn: (basis: Basis) =>
      need<Combinations>(api.POST("/api/v1/jobs/{job}/combinations/generate", { ...at(job), body: basis })),
  });
}

export function useKeepCombinations(job: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (combinations: Combinations["combinations"]) =>
      need<Import>(
        api.PUT("/api/v1/jobs/{job}/combinations", { ...at(job), body: { combinations: combinations as never } }),
      ),
    onSettled: () => client.invalidateQueries({ queryKey: key("imports", job) }),
  });
}

async function everyRow(job: string, where = ""): Promise<Row[]> {
  const found: Row[] = [];
  for (let cursor: number | null = 0; cursor !== null; ) {
    const query = { limit: 5000, cursor, where };
    const page: Rows = await need(api.GET("/api/v1/jobs/{job}/connections", { params: { path: { job }, query } }));
    found.push(...page.items);
    cursor = page.next;
  }
  return found;
}

export const useConnections = (job: string, wanted = true) =>
  useQuery({ queryKey: key("connections", job), enabled: wanted, queryFn: () => everyRow(job) });

/** The names of the connections that a filter leaves, as the service takes it. */
export const connectionsWhere = async (job: string, where: string) =>
  (await everyRow(job, where)).map((row) => row.connection);

export const useConnection = (job: string, connection: string) =>
  useQuery({
    queryKey: key("connection", job, connection),
    queryFn: () =>
      need<Connection>(
        api.GET("/api/v1/jobs/{job}/connections/{connection}", { params: { path: { job, connection } } }),
      ),
    refetchInterval: (query) => (query.state.data?.remedy.includes("being looked for") ? 2_000 : false),
  });

/** How a base works under each combination; looked up only where the standard shows it. */
export const useFigures = (job: string, connection: string, wanted: boolean) =>
  useQuery({
    queryKey: key("connection", job, connection, "figures"),
    enabled: wanted,
    retry: false,
    queryFn: () =>
      need<Figures>(
        api.GET("/api/v1/jobs/{job}/connections/{connection}/figures", { params: { path: { job, connection } } }),
      ),
  });

/** The whole joint of a connection as solids, as it stands or with one size otherwise. */
export const jointSolids = (
  job: string,
  connection: string,
  version: number,
  trial: { parameter: string; value: string } | null = null,
) => ({
  queryKey: key("connection", job, connection, "joint", version, trial?.parameter ?? "", trial?.value ?? ""),
  retry: false,
  queryFn: () => {
    const path = { params: { path: { job, connection } } };
    const at = "/api/v1/jobs/{job}/connections/{connection}/joint";
    return need<JointSolids>(
      trial ? api.POST(at, { ...path, body: { changes: { [trial.parameter]: trial.value } } }) : api.GET(at, path),
    );
  },
});

/** The views of a connection with the others of its joint dimmed. */
export const useJointDrawing = (job: string, connection: string, version: number, wanted: boolean) =>
  useQuery({
    queryKey: key("connection", job, connection, "joint-drawing", version),
    enabled: wanted,
    queryFn: () =>
      need<Drawing>(
        api.GET("/api/v1/jobs/{job}/connections/{connection}/drawing", { params: { path: { job, connection } } }),
      ),
  });

/** Of each part of a connection the sizes that it changes with. */
export const useParts = (job: string, connection: string, version: number) =>
  useQuery({
    queryKey: key("parts", job, connection, version),
    queryFn: () =>
      need<Parts>(
        api.GET("/api/v1/jobs/{job}/connections/{connection}/parts", { params: { path: { job, connection } } }),
      ),
    staleTime: Number.POSITIVE_INFINITY,
  });

/** How a connection comes out, and is drawn, with another value of a size; nothing is kept. */
export const useTrial = (job: string, data: Connection, trial: { parameter: string; value: string } | null) =>
  useQuery({
    queryKey: key("preview", job, data.connection, trial?.parameter ?? "", trial?.value ?? "", false),
    queryFn: () =>
      setOverride(job, data.connection, {
        ...trial,
        reason: "",
        preview: true,
        both: false,
        version: data.version,
      } as Wanted),
    enabled: trial !== null,
    retry: false,
  });

export const useJointSolids = (
  job: string,
  connection: string,
  version: number,
  trial: { parameter: string; value: string } | null,
) => useQuery(jointSolids(job, connection, version, trial));

/** Those of several joints, each by one of its connections; what is not there yet, or refused, is left out. */
export const useJoints = (job: string, connections: string[]) =>
  useQueries({
    queries: connections.map((connection) => jointSolids(job, connection, NOW)),
    combine: there,
  });

const there = (found: { data?: JointSolids }[]) => found.flatMap((one) => (one.data ? [one.data] : []));

const NOW = -1; // whichever version stands: fetched anew where anything of the job changes

export const useRuns = (job: string) =>
  useQuery({
    queryKey: key("runs", job),
    queryFn: async () => (await need<Runs>(api.GET("/api/v1/jobs/{job}/runs", at(job)))).items,
    refetchInterval: (query) => (OPEN.includes(query.state.data?.[0]?.state ?? "") ? 400 : false),
  });

export const useImports = (job: string) =>
  useQuery({
    queryKey: key("imports", job),
    queryFn: async () => (await need<Imports>(api.GET("/api/v1/jobs/{job}/imports", at(job)))).items,
    refetchInterval: (query) => (OPEN.includes(query.state.data?.[0]?.state ?? "") ? 500 : false),
  });

/** Send a model's files; the service holds them until somebody has looked at what it understood. */
export function useStartImport(job: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (files: File[]) => {
      const form = new FormData();
      for (const file of files) form.append("bundle", file, file.name);
      form.append("hold", "true");
      return need<Import>(
        api.POST("/api/v1/jobs/{job}/imports", { ...at(job), body: form as never, bodySerializer: () => form }),
      );
    },
    onSettled: () => client.invalidateQueries({ queryKey: key("imports", job) }),
  });
}

export const useUnderstood = (job: string, number: number) =>
  useQuery({
    queryKey: key("understood", job, number),
    retry: false,
    queryFn: () =>
      need<Understood>(
        api.GET("/api/v1/jobs/{job}/imports/{number}/understood", { params: { path: { job, number } } }),
      ),
  });

/** Look at what was sent through another column map. */
export function useSetMap(job: string, number: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (map: string) =>
      need<Understood>(
        api.PUT("/api/v1/jobs/{job}/imports/{number}/map", { params: { path: { job, number } }, body: { map } }),
      ),
    onSuccess: (found) => client.setQueryData(["understood", job, number], found),
  });
}

/** One change to the map by pointing; changes are made one after the other. */
export function useChangeMap(job: string, number: number) {
  const client = useQueryClient();
  return useMutation({
    scope: { id: `map ${number}` },
    mutationFn: (change: Change) =>
      need<Understood>(
        api.PATCH("/api/v1/jobs/{job}/imports/{number}/map", {
          params: { path: { job, number } },
          body: change as never,
        }),
      ),
    onSuccess: (found) => client.setQueryData(["understood", job, number], found),
  });
}

/** Another map in place of the one that is looked through. */
export function useChooseMap(job: string, number: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: { take: "proposed" | "saved" | "sent" | "house"; name: string }) =>
      need<Understood>(
        api.POST("/api/v1/jobs/{job}/imports/{number}/map", { params: { path: { job, number } }, body }),
      ),
    onSuccess: (found) => client.setQueryData(["understood", job, number], found),
  });
}

/** Keep a map above the jobs, by a name. */
export function useKeepMap() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ name, text, note }: { name: string; text: string; note: string }) =>
      need<unknown>(api.PUT("/api/v1/maps/{name}", { params: { path: { name } }, body: { text, note } })),
    onSuccess: () => {
      client.invalidateQueries({ queryKey: key("understood") });
      client.invalidateQueries({ queryKey: key("house-maps") });
    },
  });
}

export function useConfirmImport(job: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (number: number) =>
      need<Import>(api.POST("/api/v1/jobs/{job}/imports/{number}/confirm", { params: { path: { job, number } } })),
    onSettled: () => client.invalidateQueries({ queryKey: key("imports", job) }),
  });
}

export function useCancelImport(job: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (number: number) =>
      need<Import>(api.POST("/api/v1/jobs/{job}/imports/{number}/cancel", { params: { path: { job, number } } })),
    onSettled: () => client.invalidateQueries({ queryKey: key("imports", job) }),
  });
}

export interface Named {
  name: string;
  title: string;
  method: "LRFD" | "ASD";
  rulebook?: string; // of the house, that it begins with
}

export function useNewJob() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: Named) =>
      need<Job>(api.POST("/api/v1/jobs", { body: { rulebook: "", ...body, code: "AISC 360-22" } })),
    onSuccess: () => client.invalidateQueries({ queryKey: key("jobs") }),
  });
}

/** Everything of the job is read again after a change. */
export function useRefresh(job: string) {
  const client = useQueryClient();
  return useCallback(
    (names: Kept[] = [...PAGES, ...LISTS]) => {
      for (const name of names) client.invalidateQueries({ queryKey: key(name, job) });
    },
    [client, job],
  );
}

export function useStartRun(job: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (asked: { verify?: boolean; where?: string; combination_set?: string; only?: string[] }) =>
      need<Run>(
        api.POST("/api/v1/jobs/{job}/runs", {
          ...at(job),
          body: { verify: false, where: "", pattern: "", combination_set: "", only: [], ...asked },
        }),
      ),
    onSettled: () => client.invalidateQueries({ queryKey: key("runs", job) }),
  });
}

export function useCancelRun(job: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (run: number) =>
      need<Run>(api.POST("/api/v1/jobs/{job}/runs/{run}/cancel", { params: { path: { job, run } } })),
    onSettled: () => client.invalidateQueries({ queryKey: key("runs", job) }),
  });
}

export interface Wanted {
  parameter: string;
  value: string;
  reason: string;
  preview: boolean;
  version: number;
  both: boolean;
  cause?: string;
}

export const setOverride = (job: string, connection: string, wanted: Wanted) =>
  need<MadeOverride>(
    api.POST("/api/v1/jobs/{job}/connections/{connection}/overrides", {
      params: { path: { job, connection } },
      headers: { "If-Match": `"${wanted.version}"` },
      body: {
        parameter: wanted.parameter,
        value: wanted.value,
        reason: wanted.reason,
        preview: wanted.preview,
        drawing: wanted.preview,
        both: wanted.both,
        cause: wanted.cause ?? "",
      },
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

/** End the session on the server, forget what was read, and stand at the door. */
export function useSignOut() {
  const client = useQueryClient();
  const go = useNavigate();
  return async () => {
    await need<void>(api.DELETE("/api/v1/session"));
    client.clear();
    go("/sign-in");
  };
}
