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
export { knownBrowser, knownMark } from "./knownBrowser";
export { countedAddress, tryOwnPassword, tryToSignIn } from "./limits";
export { openSession, plainLogin, presentPasswordProblem, signIn, type Asker, type SignedIn } from "./signIn";
export { newToken, tokenHashOf } from "./tokens";
export { accountShown, register, registrationOptions, signInOptions, type PasskeySite } from "./passkeys";
