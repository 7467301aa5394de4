package viewing

import "slices"

// Reached is a stage that a surface came to at an instant, UTC ms.
type Reached struct {
	Stage string
	AtMS  int64
}

// StageAt is the stage that a surface is in at an instant: the furthest that it came to until
// then; raw before any.
func StageAt(reached []Reached, atMS int64) string {
	out := "raw"
	for _, r := range reached {
		if r.AtMS <= atMS && CompareStages(out, r.Stage) < 0 {
			out = r.Stage
		}
	}
	return out
}

// Coated reports that what lies below can be seen no more: from varnish on.
func Coated(stage string) bool { return CompareStages(stage, "varnished") >= 0 }

// Gone reports that a surface in a stage cannot be seen in another any more: what is coated
// shows nothing from before its coat.
func Gone(now, said string) bool {
	return Coated(now) && slices.Contains(Stages, said) && CompareStages(said, now) < 0
}
