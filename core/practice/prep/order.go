package prep

import (
	"cmp"
	"slices"

	"exactflask/core/record/practical"
)

// Task is a moment of the day at which something is begun.
type Task struct {
	Of     int `json:"of" doc:"which of the preparations, from 0"`
	Step   int `json:"step" doc:"which of its steps, from 0"`
	Before int `json:"before" doc:"minutes before the lesson at the latest"`
}

// Order is the order of work for a day: for each preparation its first step and every
// step that is waited for, at the latest moment from which the rest is done when the
// lesson begins. What takes longest comes first. Each step takes its HandsOnMinutes
// and its waiting time; while one is waited for, the others go on.
func Order(norms practical.Norms, all []Preparation) []Task {
	var out []Task
	for of, p := range all {
		left := 0
		tasks := []Task{}
		for i := len(p.Instructions) - 1; i >= 0; i-- {
			if p.Instructions[i].Note {
				continue
			}
			left += norms.Count(practical.HandsOnMinutes) + (p.Instructions[i].Seconds+59)/60
			if i == 0 || p.Instructions[i].Seconds > 0 {
				tasks = append(tasks, Task{of, i, left})
			}
		}
		out = append(out, tasks...)
	}
	slices.SortStableFunc(out, func(a, b Task) int { return cmp.Compare(b.Before, a.Before) })
	return out
}
