// Package order answers: which steps does a build ask for, and what waits for what?
// Tasks from kit, layers, schools and mishaps with the rules between them; what the modeller
// changed about them; what the log taught of their minutes. It lays nothing on evenings.
package order
