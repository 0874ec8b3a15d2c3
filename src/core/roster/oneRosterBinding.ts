/**
 * The files of the 1EdTech OneRoster 1.2 CSV binding that Almanac reads and writes: their columns in
 * the order of the binding, which of them must be filled, and the words an enumeration allows. Written
 * from memory of the binding (1EdTech, OneRoster CSV Binding 1.2, sections on each file).
 */
export const ONE_ROSTER = {
  "orgs.csv": {
    columns: [
      "sourcedId",
      "status",
      "dateLastModified",
      "name",
      "type",
      "identifier",
      "parentSourcedId",
    ],
    required: ["sourcedId", "name", "type"],
    words: { type: ["department", "school", "district", "local", "state", "national"] },
  },
  "academicSessions.csv": {
    columns: [
      "sourcedId",
      "status",
      "dateLastModified",
      "title",
      "type",
      "startDate",
      "endDate",
      "parentSourcedId",
      "schoolYear",
    ],
    required: ["sourcedId", "title", "type", "startDate", "endDate", "schoolYear"],
    words: { type: ["gradingPeriod", "semester", "schoolYear", "term"] },
  },
  "courses.csv": {
    columns: [
      "sourcedId",
      "status",
      "dateLastModified",
      "schoolYearSourcedId",
      "title",
      "courseCode",
      "grades",
      "orgSourcedId",
      "subjects",
      "subjectCodes",
    ],
    required: ["sourcedId", "title", "orgSourcedId"],
    words: {},
  },
  "classes.csv": {
    columns: [
      "sourcedId",
      "status",
      "dateLastModified",
      "title",
      "grades",
      "courseSourcedId",
      "classCode",
      "classType",
      "location",
      "schoolSourcedId",
      "termSourcedIds",
      "subjects",
      "subjectCodes",
      "periods",
    ],
    required: [
      "sourcedId",
      "title",
      "courseSourcedId",
      "classType",
      "schoolSourcedId",
      "termSourcedIds",
    ],
    words: { classType: ["homeroom", "scheduled"] },
  },
  "users.csv": {
    columns: [
      "sourcedId",
      "status",
      "dateLastModified",
      "enabledUser",
      "username",
      "userIds",
      "givenName",
      "familyName",
      "middleName",
      "identifier",
      "email",
      "sms",
      "phone",
      "agentSourcedIds",
      "grades",
      "password",
      "userMasterIdentifier",
      "resourceSourcedIds",
      "preferredGivenName",
      "preferredMiddleName",
      "preferredFamilyName",
      "primaryOrgSourcedId",
      "pronouns",
    ],
    required: ["sourcedId", "enabledUser", "username", "givenName", "familyName"],
    words: { enabledUser: ["true", "false"] },
  },
  "roles.csv": {
    columns: [
      "sourcedId",
      "status",
      "dateLastModified",
      "userSourcedId",
      "roleType",
      "role",
      "beginDate",
      "endDate",
      "orgSourcedId",
      "userProfileSourcedId",
    ],
    required: ["sourcedId", "userSourcedId", "roleType", "role", "orgSourcedId"],
    words: {
      roleType: ["primary", "secondary"],
      role: [
        "aide",
        "counselor",
        "districtAdministrator",
        "guardian",
        "parent",
        "principal",
        "proctor",
        "relative",
        "siteAdministrator",
        "student",
        "systemAdministrator",
        "teacher",
      ],
    },
  },
  "enrollments.csv": {
    columns: [
      "sourcedId",
      "status",
      "dateLastModified",
      "classSourcedId",
      "schoolSourcedId",
      "userSourcedId",
      "role",
      "primary",
      "beginDate",
      "endDate",
    ],
    required: ["sourcedId", "classSourcedId", "schoolSourcedId", "userSourcedId", "role"],
    words: {
      role: ["administrator", "proctor", "student", "teacher"],
      primary: ["true", "false", ""],
    },
  },
} as const satisfies Record<
  string,
  {
    columns: readonly string[];
    required: readonly string[];
    words: Record<string, readonly string[]>;
  }
>;

export type OneRosterFile = keyof typeof ONE_ROSTER;
export const ONE_ROSTER_FILES = Object.keys(ONE_ROSTER) as OneRosterFile[];
/** Needed in every row of a delta file, and allowed to be empty in a bulk file. */
export const STATUSES = ["active", "tobedeleted", ""] as const;

/** What manifest.csv says of a file: `bulk` holds everything, `delta` only what changed. */
export const MANIFEST_STATES = ["absent", "bulk", "delta"] as const;

/** Every file the binding knows; those that Almanac does not read are noted, or declared absent when it writes. */
export const MANIFEST_FILES = [
  "academicSessions",
  "categories",
  "classes",
  "classResources",
  "courses",
  "courseResources",
  "demographics",
  "enrollments",
  "lineItemLearningObjectiveIds",
  "lineItems",
  "lineItemScoreScales",
  "orgs",
  "resources",
  "resultLearningObjectiveIds",
  "results",
  "resultScoreScales",
  "roles",
  "scoreScales",
  "userProfiles",
  "userResources",
  "users",
] as const;
