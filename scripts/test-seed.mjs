// Property-based tests draw the same cases in every run of the tests; another seed draws others.
import fc from "fast-check";

/** `ALVEK_TEST_SEED=$RANDOM npm test` looks further; what it finds becomes a case of its own. */
const SEED = Number(process.env.ALVEK_TEST_SEED ?? 20261201);

fc.configureGlobal({ ...fc.readConfigureGlobal(), seed: SEED });
