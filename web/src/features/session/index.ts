export { RequireSession } from "./RequireSession";
export { useSession, useSignOut } from "./useSession";
