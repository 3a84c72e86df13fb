import fc from 'fast-check';

// The same cases at every run, so that a red build is the change's own; FC_SEED tries others.
fc.configureGlobal({ seed: Number(process.env.FC_SEED ?? 20261125) });
