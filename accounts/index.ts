export { asAccount, whoAsks } from "./asking";
export { acceptInvitation, invite, makeAccount, type NewAccount, type Problems } from "./invite";
export { hashPassword, opens, passwordProblem } from "./password";
export { openSession, plainLogin, signIn, type Asker, type SignedIn } from "./signIn";
export { newToken, tokenHashOf } from "./tokens";
export { accountShown, register, registrationOptions, signInOptions, type PasskeySite } from "./passkeys";
