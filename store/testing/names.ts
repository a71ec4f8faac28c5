/** The variable that names where the tests keep the store that they begin with. */
export const BEGUN_STORE = "TEJADO_TEST_BEGUN_STORE";
