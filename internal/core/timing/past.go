package timing

// Past is a finished, real print of a machine that a time may be learned from, with how
// near it is to the print asked about. OursS and SoftwareS are what it had been
// estimated at, by which model and program; Job is nil where what it held is not known.
type Past struct {
	RunID        string
	ActualS      float64
	Settings     string
	SameJob      bool
	SameSettings bool
	OursS        *float64
	Model        string
	SoftwareS    *float64
	Software     string
	Job          *Job
}

// enoughPrints is how many prints carry an interval of their own; with fewer the next
// wider kind is asked.
const enoughPrints = 2

// LearnFrom chooses what to learn a time from, and says it: prints of the same plate,
// else of the same settings, else of the machine. The nearest kind that carries an
// interval is taken; where none does, all of the machine's.
func LearnFrom(past []Past) (chosen []Past, from string) {
	for _, kind := range []struct {
		near func(Past) bool
		from string
	}{
		{func(p Past) bool { return p.SameJob }, "of the same plate"},
		{func(p Past) bool { return p.SameSettings }, "with these settings"},
	} {
		near := []Past{}
		for _, p := range past {
			if kind.near(p) {
				near = append(near, p)
			}
		}
		if len(near) >= enoughPrints {
			return near, kind.from
		}
	}
	return past, "of this machine"
}

// LearnAlike is LearnFrom for several machines that are set against each other: all are put right by prints of the same kind,
// or none is, since a machine put right against one that is not would differ by the correction alone. chosen are the prints
// of each in the given order, all empty where the machines have no kind in common.
func LearnAlike(machines [][]Past) (chosen [][]Past, from string) {
	for _, kind := range []struct {
		near func(Past) bool
		from string
	}{
		{func(p Past) bool { return p.SameSettings }, "with these settings"},
		{func(Past) bool { return true }, "of this machine"},
	} {
		chosen = make([][]Past, len(machines))
		all := true
		for i, past := range machines {
			for _, p := range past {
				if kind.near(p) {
					chosen[i] = append(chosen[i], p)
				}
			}
			all = all && len(chosen[i]) > 0
		}
		if all {
			return chosen, kind.from
		}
	}
	return make([][]Past, len(machines)), ""
}

// An end is unlikely below and above these shares of what was estimated: it is asked
// about once before it is believed.
const (
	unlikelyShort = 0.7
	unlikelyLong  = 1.6
)

// UnlikelyEnd reports a time that is hard to believe against its estimate, both in s.
func UnlikelyEnd(tookS, estimateS float64) bool {
	return tookS < unlikelyShort*estimateS || tookS > unlikelyLong*estimateS
}

// minuteSlip is by how much two times differ when minutes were typed for seconds; the
// rest is what estimates differ by anyway.
const (
	minuteSlip      = 60.0
	minuteSlipLeast = 30.0
)

// UnitSlip reports a typed time that is about 60 times off another estimate of the
// same print: minutes may stand for seconds, or hours for minutes.
func UnitSlip(typedS, otherS float64) bool {
	ratio := typedS / otherS
	within := func(r float64) bool { return r >= minuteSlipLeast && r <= minuteSlip*minuteSlip/minuteSlipLeast }
	return within(ratio) || within(1/ratio)
}
