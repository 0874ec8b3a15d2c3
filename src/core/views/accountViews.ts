/** A place where someone is signed in, in words. */
export type SessionView = {
  id: string;
  about: string;
  /** The one that asks. */ here: boolean;
  since: string;
  seen: string;
};

/** A password that is shown once, to be handed to its owner. */
export type FirstPassword = { name: string; signsInAs: string; password: string };

/** A section with who signs in already, for giving first passwords. */
export type ClassToSignIn = {
  id: string;
  name: string;
  course: string;
  students: { id: string; name: string; hasPassword: boolean }[];
};
