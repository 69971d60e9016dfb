// Package plan answers: given builds, a workshop and an instant, what is to be seen and done?
// All that follows from documents, stage by stage, each kept under its own inputs: sizes,
// surfaces, camouflage, looks and pictures, steps on evenings, what to do next and why.
package plan
