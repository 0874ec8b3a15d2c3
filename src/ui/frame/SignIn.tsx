"use client";

import { yupResolver } from "@hookform/resolvers/yup";
import { useState } from "react";
import { useForm } from "react-hook-form";
import { contract, signInBody } from "@/core/api/contract";
import { call, sayProblem } from "../client";
import { Button } from "../kit/Button";
import { TextField } from "../kit/Field";
import { Notice } from "../kit/Notice";

export function SignIn() {
  const [problem, setProblem] = useState<string | null>(null);
  const { register, handleSubmit, formState } = useForm({
    resolver: yupResolver(signInBody),
    defaultValues: { name: "", password: "" },
  });
  async function send(body: { name: string; password: string }) {
    try {
      const { to } = await call(contract.signIn, { body });
      window.location.assign(to);
    } catch (error) {
      setProblem(sayProblem(error));
    }
  }
  return (
    <form onSubmit={handleSubmit(send)} noValidate className="grid gap-4">
      {problem ? <Notice ink="ember">{problem}</Notice> : null}
      <TextField
        label="E-mail address or school name"
        autoComplete="username"
        autoCapitalize="none"
        {...register("name")}
        error={formState.errors.name?.message}
      />
      <TextField
        label="Password"
        type="password"
        autoComplete="current-password"
        {...register("password")}
        error={formState.errors.password?.message}
      />
      <div>
        <Button ink="tide" type="submit" disabled={formState.isSubmitting}>
          Sign in
        </Button>
      </div>
    </form>
  );
}
