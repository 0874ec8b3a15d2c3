import { writeTable } from "../formats/table";
import { addDays } from "../time/zone";
import {
  type OneRosterFile,
  ONE_ROSTER,
  ONE_ROSTER_FILES,
  MANIFEST_FILES,
} from "./oneRosterBinding";
import type { Roster, RosterPerson } from "./roster";

/** How a person's names and addresses stand in users.csv, which asks for a given and a family name of everyone. */
export function nameColumns(
  p: Pick<RosterPerson, "ref" | "name" | "called" | "sortName" | "email" | "schoolName">,
): Record<"username" | "givenName" | "familyName" | "email", string> {
  const [family = "", given = ""] = p.sortName.split(", ");
  return {
    username: p.schoolName ?? p.email ?? p.ref,
    givenName: given || p.called,
    familyName: given ? family : p.name,
    email: p.email ?? "",
  };
}

/** manifest.csv of a package that holds these files whole, and no other. */
export function writeManifest(written: readonly string[], systemCode: string): string {
  return writeTable([
    ["propertyName", "value"],
    ["manifest.version", "1.0"],
    ["oneroster.version", "1.2"],
    ...MANIFEST_FILES.map((f) => [`file.${f}`, written.includes(`${f}.csv`) ? "bulk" : "absent"]),
    ["source.systemName", "Almanac"],
    ["source.systemCode", systemCode],
  ]);
}

/** Writes a roster as the files of a OneRoster 1.2 package: every file bulk, what Almanac does not keep absent. */
export function writeOneRoster(
  roster: Roster,
  school: { id: string; name: string },
  year: string,
): Map<string, string> {
  const files = new Map<string, string>();
  const put = (file: OneRosterFile, rows: Record<string, string>[]) => {
    const { columns } = ONE_ROSTER[file];
    files.set(file, writeTable([columns, ...rows.map((row) => columns.map((c) => row[c] ?? ""))]));
  };
  files.set("manifest.csv", writeManifest(ONE_ROSTER_FILES, school.id));
  put("orgs.csv", [{ sourcedId: school.id, name: school.name, type: "school" }]);
  put(
    "academicSessions.csv",
    roster.terms.map((t) => ({
      sourcedId: t.ref,
      title: t.name,
      type: "term",
      startDate: t.startsOn,
      endDate: addDays(t.endsOn, 1),
      schoolYear: year,
    })),
  );
  const courses = new Map(roster.sections.map((s) => [s.courseSourceId ?? s.course, s.course]));
  put(
    "courses.csv",
    [...courses].map(([sourcedId, title]) => ({ sourcedId, title, orgSourcedId: school.id })),
  );
  put(
    "classes.csv",
    roster.sections.map((s) => ({
      sourcedId: s.ref,
      title: s.name,
      courseSourcedId: s.courseSourceId ?? s.course,
      classType: "scheduled",
      schoolSourcedId: school.id,
      termSourcedIds: s.termRef ?? "",
    })),
  );
  const agents = new Map<string, string[]>();
  for (const g of roster.guardians)
    agents.set(g.guardianRef, [...(agents.get(g.guardianRef) ?? []), g.studentRef]);
  put(
    "users.csv",
    roster.people.map((p) => ({
      sourcedId: p.ref,
      enabledUser: "true",
      ...nameColumns(p),
      agentSourcedIds: (agents.get(p.ref) ?? []).join(","),
      primaryOrgSourcedId: school.id,
    })),
  );
  const role = {
    student: "student",
    teacher: "teacher",
    guardian: "guardian",
    office: "siteAdministrator",
  } as const;
  put(
    "roles.csv",
    roster.people.map((p) => ({
      sourcedId: `role-${p.ref}`,
      userSourcedId: p.ref,
      roleType: "primary",
      role: role[p.kind],
      orgSourcedId: school.id,
    })),
  );
  const enrolled = [
    ...roster.teachers.map((t) => ({ ...t, role: "teacher", joinedOn: null, leftOn: null })),
    ...roster.enrolments.map((e) => ({ ...e, role: "student", owner: false })),
  ];
  put(
    "enrollments.csv",
    enrolled.map((e) => ({
      sourcedId: `${e.sectionRef}-${e.personRef}`,
      classSourcedId: e.sectionRef,
      schoolSourcedId: school.id,
      userSourcedId: e.personRef,
      role: e.role,
      primary: String(e.owner),
      beginDate: e.joinedOn ?? "",
      endDate: e.leftOn ?? "",
    })),
  );
  return files;
}
