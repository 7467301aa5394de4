package bench

import (
	"math/rand/v2"
	"testing"
)

func eventsOf(kinds ...string) (out []RunEvent) {
	for i, k := range kinds {
		out = append(out, RunEvent{Kind: k, AtMS: int64(1000 * (i + 1))})
	}
	return out
}

func TestAStateFollowsFromEvents(t *testing.T) {
	prepared := int64(1)
	run := Run{Code: "R-001", PreparedMS: &prepared}
	for _, c := range []struct {
		events  []RunEvent
		state   string
		running int64
	}{
		{nil, Prepared, 0}, {eventsOf("note"), Prepared, 0}, {eventsOf("start"), Printing, 9000}, {eventsOf("start", "pause"), Paused, 1000},
		{eventsOf("start", "pause", "resume"), Printing, 8000}, {eventsOf("start", "top_up", "note", "finish"), Finished, 3000},
		{eventsOf("start", "pause", "stop"), Stopped, 1000}, {eventsOf("start", "pause", "resume", "stop", "note"), Stopped, 2000},
	} {
		if state, running := StateOf(run, c.events), RunningMS(c.events, 10_000); state != c.state || running != c.running {
			t.Errorf("%+v: %s for %d ms, want %s for %d", c.events, state, running, c.state, c.running)
		}
	}
	if StateOf(Run{}, nil) != Recorded {
		t.Error("a run entered after the fact is not recorded")
	}
}

// Whatever is tried in whatever order: what MayFollow lets through never makes a
// print end twice, start twice, or run longer than the clock, and each event knows
// its place and whether the clock went back before it.
func TestOnlyWhatCanComeComes(t *testing.T) {
	prepared := int64(1)
	run := Run{Code: "R-001", PreparedMS: &prepared}
	kinds := []string{"start", "pause", "resume", "top_up", "note", "stop", "finish"}
	chance := rand.New(rand.NewPCG(3, 3))
	ml := 10.0
	for range 500 {
		var events []RunEvent
		now, starts, ends, wentBack := int64(0), 0, 0, false
		for range 30 {
			now += chance.Int64N(100)
			e := RunEvent{Kind: kinds[chance.IntN(len(kinds))], AtMS: now - chance.Int64N(20), ML: &ml}
			if MayFollow(run, events, e) != nil {
				continue
			}
			back := len(events) > 0 && e.AtMS < events[len(events)-1].AtMS
			if e.Follow(events) != back || e.Position != int64(len(events)+1) {
				t.Fatalf("%+v after %+v: back %v", e, events, back)
			}
			wentBack = wentBack || back
			events = append(events, e)
			switch e.Kind {
			case "start":
				starts++
			case "stop", "finish":
				ends++
			}
		}
		if starts > 1 || ends > 1 || ends > starts || RunningMS(events, now) < 0 || (!wentBack && RunningMS(events, now) > now) {
			t.Fatalf("%d starts, %d ends, %d ms of %d: %+v", starts, ends, RunningMS(events, now), now, events)
		}
	}
	if err := MayFollow(run, eventsOf("start"), RunEvent{Kind: "top_up", AtMS: 5000}); err == nil {
		t.Error("a top-up of nothing was kept")
	}
}
