package work_test

import (
	"testing"
	"time"

	"ojime/internal/bench"
)

// BenchmarkSaveOnSealed records a print of a machine that hides its settings and has
// printed 600 times, which all teach its time.
func BenchmarkSaveOnSealed(b *testing.B) {
	d := newDesk(b)
	sealed := must(d.w.Kit.AddProfile(b.Context(), bench.Profile{MachineID: d.machine.ID, ResinID: d.resin.ID, LayerUM: 50, Basis: "sealed", SealedName: "Fine", Antialiasing: "none"}))(b)
	record := func() {
		d.clock = d.clock.Add(4 * time.Hour)
		d.run(func(r *bench.Run) {
			r.ProfileID, r.StartedMS = sealed.ID, d.clock.UnixMilli()
			end := r.StartedMS + 2*time.Hour.Milliseconds()
			r.EndedMS, r.EndedHow = &end, bench.EndFinished
		})
	}
	for range 600 {
		record()
	}
	for b.Loop() {
		record()
	}
}
