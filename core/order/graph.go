package order

import (
	"slices"

	"cinderpath/core/path"
)

// precedes tells whether one task must come before another.
func precedes(tasks []path.Task, from, to string) bool { return len(way(tasks, from, to, "")) > 0 }

// step of a way through the order: an arrow and the task it leads to.
type wayStep struct {
	to string
	path.Arrow
}

// way finds arrows that lead from one task to another; only those that are not mere
// advice when kind is "firm".
func way(tasks []path.Task, from, to, kind string) []wayStep {
	next := map[string][]wayStep{}
	for _, t := range tasks {
		for _, a := range t.After {
			if kind == "firm" && a.Severity.Advice() {
				continue
			}
			next[a.From] = append(next[a.From], wayStep{t.ID, a})
		}
	}
	came := map[string]wayStep{}
	seen := map[string]bool{from: true}
	queue := []string{from}
	for len(queue) > 0 {
		id := queue[0]
		queue = queue[1:]
		if id == to && from != to {
			var out []wayStep
			for id != from {
				s := came[id]
				out = append([]wayStep{s}, out...)
				id = s.From
			}
			return out
		}
		for _, s := range next[id] {
			if !seen[s.to] {
				seen[s.to], came[s.to] = true, s
				queue = append(queue, s.to)
			}
		}
	}
	return nil
}

// Sorted brings tasks into a working order that stays as close to theirs as it can.
func Sorted(tasks []path.Task) []path.Task {
	index := map[string]int{}
	for i, t := range tasks {
		index[t.ID] = i
	}
	out := make([]path.Task, 0, len(tasks))
	state := make([]int, len(tasks))
	var visit func(i int)
	visit = func(i int) {
		if state[i] != 0 {
			return
		}
		state[i] = 1
		var first []int
		for _, a := range tasks[i].After {
			if k, ok := index[a.From]; ok {
				first = append(first, k)
			}
		}
		slices.Sort(first)
		for _, k := range first {
			visit(k)
		}
		out = append(out, tasks[i])
	}
	for i := range tasks {
		visit(i)
	}
	return out
}
