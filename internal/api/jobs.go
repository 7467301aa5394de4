package api

import (
	"sync"

	"ojime/internal/work/task"
)

// jobState is how far a long task has come: what it does now and the share of
// that which is done. An unknown task has no stage.
type jobState struct {
	Stage string  `json:"stage"`
	Share float64 `json:"share"`
}

// jobs holds the progress of tasks that run now, under names that the page
// made up when it asked for them.
type jobs struct {
	mu      sync.Mutex
	running map[string]jobState
}

// begin gives a task its report and what ends it; without a name nobody asks.
func (j *jobs) begin(name string) (task.Report, func()) {
	if name == "" {
		return nil, func() {}
	}
	report := func(stage string, share float64) {
		j.mu.Lock()
		defer j.mu.Unlock()
		if j.running == nil {
			j.running = map[string]jobState{}
		}
		j.running[name] = jobState{stage, share}
	}
	report("reading", 0)
	return report, func() {
		j.mu.Lock()
		defer j.mu.Unlock()
		delete(j.running, name)
	}
}

func (j *jobs) state(name string) jobState {
	j.mu.Lock()
	defer j.mu.Unlock()
	return j.running[name]
}
