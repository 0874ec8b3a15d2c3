import { array, boolean, object, string } from "yup";
import type { FirstPassword, SessionView } from "../views/accountViews";
import { endpoint } from "./endpoint";
import { uuid } from "./fields";
import { classRoutes } from "./routes/classes";
import { deskRoutes } from "./routes/desk";
import { handingBackRoutes } from "./routes/handingBack";
import { handOutRoutes } from "./routes/handOuts";
import { ledgerRoutes } from "./routes/ledger";
import { letterRoutes } from "./routes/letters";
import { lookRoutes } from "./routes/looks";
import { pieceRoutes } from "./routes/pieces";
import { schoolRoutes } from "./routes/school";
import { sectionNoteRoutes } from "./routes/sectionNotes";
import { studentRoutes } from "./routes/students";
import { voiceRoutes } from "./routes/voice";

/** The whole API of Almanac. A route exists if and only if it stands here (a test walks both). */
export const signInBody = object({
  name: string().trim().required("Write your e-mail address or school name.").max(200),
  password: string().required("Write your password.").max(500),
}).noUnknown();

export const ownPasswordBody = object({
  current: string().required("Write your present password.").max(500),
  password: string().required("Write a new password.").max(500),
}).noUnknown();

export const contract = {
  health: endpoint<{ application: string; database: string; migration: string | null }>()({
    method: "GET",
    path: "/api/health",
    for: "anyone",
    summary: "Whether the application, its database and its migrations are in order",
  }),
  openapi: endpoint<object>()({
    method: "GET",
    path: "/api/openapi.json",
    for: "anyone",
    summary: "This document",
  }),

  signIn: endpoint<{ to: string }>()({
    method: "POST",
    path: "/api/sign-in",
    for: "anyone",
    summary: "Sign in by e-mail or school name",
    body: signInBody,
  }),
  changePassword: endpoint<{ changed: true }>()({
    method: "PUT",
    path: "/api/password",
    for: "signed-in",
    summary: "Change one's own password; other sessions end",
    body: ownPasswordBody,
    whileOwed: true,
  }),
  sessions: endpoint<SessionView[]>()({
    method: "GET",
    path: "/api/sessions",
    for: "signed-in",
    summary: "Where one is signed in",
    whileOwed: true,
  }),
  endSession: endpoint<{ ended: true }>()({
    method: "DELETE",
    path: "/api/sessions/{sessionId}",
    for: "signed-in",
    summary: "Sign oneself out somewhere else",
    whileOwed: true,
  }),
  giveFirstPasswords: endpoint<{ passwords: FirstPassword[] }>()({
    method: "POST",
    path: "/api/sections/{sectionId}/passwords",
    for: "signed-in",
    summary: "First passwords for students of a section, shown once",
    body: object({
      studentIds: array().of(uuid.required()).required().min(1, "Choose somebody.").max(60),
    }).noUnknown(),
  }),
  enterDemo: endpoint<{ to: string }>()({
    method: "POST",
    path: "/api/demo/enter",
    for: "anyone",
    summary: "Enter the demo as one of its people (demo mode only)",
    body: object({ personId: uuid.required() }).noUnknown(),
  }),
  signOut: endpoint<{ to: string }>()({
    method: "POST",
    path: "/api/sign-out",
    for: "signed-in",
    summary: "Sign out here, or everywhere",
    body: object({ everywhere: boolean().required() }).noUnknown(),
    whileOwed: true,
  }),

  ...handOutRoutes,
  ...handingBackRoutes,
  ...classRoutes,
  ...schoolRoutes,
  ...deskRoutes,
  ...pieceRoutes,
  ...studentRoutes,
  ...voiceRoutes,
  ...ledgerRoutes,
  ...letterRoutes,
  ...lookRoutes,
  ...sectionNoteRoutes,
} as const;
