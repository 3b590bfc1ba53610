import { useState } from "react";
import { Button } from "../../primitives/Button";
import { TextField } from "../../primitives/Field";
import { useQueue } from "../../queue";
import { FiringEnd } from "../plug";
import { useSignIn } from "./useSession";

const DRAWN = [
  { deposit_colour: "tan", deposit_amount: "light", deposit_texture: "powder", wetness: "dry", insulator: "sound", centre_electrode: "square", ground_electrode: "square", gap: { value: 0.7, unit: "mm" } },
  { deposit_colour: "black", deposit_amount: "moderate", deposit_texture: "powder", wetness: "wet", wet_with: "fuel", insulator: "sound", centre_electrode: "square", ground_electrode: "square", gap: { value: 0.7, unit: "mm" } },
  {},
] as const;

export function SignIn() {
  const [email, setEmail] = useState("");
  const [password, setPassword] = useState("");
  const signIn = useSignIn();
  const waiting = useQueue().held.length;
  return (
    <main className="grid min-h-screen place-items-center p-4">
      <div className="sheet w-full max-w-md p-6">
        <div className="mb-4 flex justify-center gap-3" aria-hidden="true">
          {DRAWN.map((plug, index) => (
            <FiringEnd key={index} plug={plug} className="size-20" />
          ))}
        </div>
        <h1 className="text-2xl font-bold">Fiacre</h1>
        <p className="mb-4 text-soft">The second opinion on an engine, cylinder by cylinder.</p>
        {waiting > 0 && (
          <p role="status" className="mb-3 border-l-4 border-ochre pl-2 text-sm">
            {waiting === 1 ? "1 entry waits" : `${waiting} entries wait`} on this device for whoever made{" "}
            {waiting === 1 ? "it" : "them"}: nothing is lost, and nobody else can send it.
          </p>
        )}
        <form
          className="grid gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            signIn.mutate({ email, password });
          }}
        >
          <TextField
            label="E-mail"
            type="email"
            autoComplete="username"
            required
            value={email}
            onChange={(event) => setEmail(event.target.value)}
          />
          <TextField
            label="Password"
            type="password"
            autoComplete="current-password"
            required
            value={password}
            error={signIn.error?.message}
            onChange={(event) => setPassword(event.target.value)}
          />
          <Button type="submit" weight="main" disabled={signIn.isPending}>
            Sign in
          </Button>
        </form>
      </div>
    </main>
  );
}
