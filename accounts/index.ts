export { asAccount, whoAsks } from "./asking";
export {
  acceptInvitation,
  invite,
  INVITATION_OVER,
  makeAccount,
  takeAs,
  type NewAccount,
  type Problems,
} from "./invite";
export { hashPassword, opens, passwordProblem } from "./password";
export { openSession, plainLogin, presentPasswordProblem, signIn, type Asker, type SignedIn } from "./signIn";
export { newToken, tokenHashOf } from "./tokens";
export { accountShown, register, registrationOptions, signInOptions, type PasskeySite } from "./passkeys";
