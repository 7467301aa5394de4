// Package outcome says what a printed copy counts as: whole, spoilt in printing,
// or the victim of an accident afterwards; against whom; and whether its fine
// features may still be judged. Every page, rate, cost and write-up asks here.
package outcome

// What became of a copy.
const (
	Pending     = "pending"
	Whole       = "whole"
	MicroDefect = "micro_defect"
	Lost        = "lost"
)

// Defect is what the rules need of one defect. Origin is where it came from
// (printed, removal, wash, supports, handling, unknown), Fault whom it is laid to
// (none, machine, resin, file, operator, surroundings, unknown), Severity how
// grave it is (empty, slight, plain, grave).
type Defect struct{ Origin, Fault, Severity string }

// PrintedSo reports a defect that counts against the print: one that was printed
// so, or of which nobody knows. What happened in washing or handling is an
// accident.
func (d Defect) PrintedSo() bool { return d.Origin == "printed" || d.Origin == "unknown" }

// Weight is what a copy counts as. Failed is a copy lost in printing, laid to
// FailedBy; MicroPrinted one with a defect in its print that can be used all the
// same; Accident one that was harmed after it was printed. A copy may be both of the
// last two.
type Weight struct {
	Failed       bool
	FailedBy     string
	MicroPrinted bool
	Accident     bool
}

var gravity = map[string]int{"slight": 1, "plain": 2, "grave": 3}

// Weigh derives what a copy counts as from its outcome and its defects. A lost
// copy was lost to its gravest defect; of two alike the one that was printed so,
// and of those the first.
func Weigh(outcome string, defects []Defect) (w Weight) {
	if outcome != MicroDefect && outcome != Lost {
		return w
	}
	var worst *Defect
	for i, d := range defects {
		w.Accident = w.Accident || !d.PrintedSo()
		w.MicroPrinted = w.MicroPrinted || d.PrintedSo()
		if worst == nil || graver(d, *worst) {
			worst = &defects[i]
		}
	}
	if outcome == Lost && worst != nil && worst.PrintedSo() {
		w.Failed, w.FailedBy, w.MicroPrinted = true, worst.Fault, false
	}
	return w
}

func graver(a, b Defect) bool {
	if gravity[a.Severity] != gravity[b.Severity] {
		return gravity[a.Severity] > gravity[b.Severity]
	}
	return a.PrintedSo() && !b.PrintedSo()
}

// SetAside reports a copy whose readings and fine features do not count: one that
// was lost, or one that may have been swapped with another.
func SetAside(outcome string, swapped bool) bool { return outcome == Lost || swapped }

// Counts are copies by what became of them. MicroPrinted, Failed, ByMachine,
// ByResin and Accidents are sums of what Weigh derived.
type Counts struct {
	Specimens    int64 `json:"specimens"`
	Pending      int64 `json:"pending"`
	Whole        int64 `json:"whole"`
	Micro        int64 `json:"micro_defect"`
	Lost         int64 `json:"lost"`
	MicroPrinted int64 `json:"micro_printed"`
	Failed       int64 `json:"failed"`
	ByMachine    int64 `json:"by_machine"`
	ByResin      int64 `json:"by_resin"`
	Accidents    int64 `json:"accidents"`
}

// Add counts one copy more.
func (c *Counts) Add(outcome string, w Weight) {
	c.Specimens++
	c.Pending += one(outcome == Pending)
	c.Whole += one(outcome == Whole)
	c.Micro += one(outcome == MicroDefect)
	c.Lost += one(outcome == Lost)
	c.MicroPrinted += one(w.MicroPrinted)
	c.Failed += one(w.Failed)
	c.ByMachine += one(w.FailedBy == "machine")
	c.ByResin += one(w.FailedBy == "resin")
	c.Accidents += one(w.Accident)
}

// Sum adds other counts to these.
func (c *Counts) Sum(o Counts) {
	c.Specimens, c.Pending, c.Whole, c.Micro, c.Lost = c.Specimens+o.Specimens, c.Pending+o.Pending, c.Whole+o.Whole, c.Micro+o.Micro, c.Lost+o.Lost
	c.MicroPrinted, c.Failed, c.Accidents = c.MicroPrinted+o.MicroPrinted, c.Failed+o.Failed, c.Accidents+o.Accidents
	c.ByMachine, c.ByResin = c.ByMachine+o.ByMachine, c.ByResin+o.ByResin
}

// Judged is how many of them have an outcome.
func (c Counts) Judged() int64 { return c.Specimens - c.Pending }

// Good is how many of them the printing left good: neither lost nor marked in
// printing. One that met with an accident afterwards was printed well.
func (c Counts) Good() int64 { return c.Judged() - c.Failed - c.MicroPrinted }

// Shape is how a bead shows a print: whole, nicked (micro-defects), split (part of
// the plate lost), ring (nothing usable) or open (not judged yet).
func (c Counts) Shape() string {
	switch {
	case c.Pending > 0 || c.Specimens == 0:
		return "open"
	case c.Lost == c.Specimens:
		return "ring"
	case c.Lost > 0:
		return "split"
	case c.Micro > 0:
		return "nicked"
	}
	return "whole"
}

func one(b bool) int64 {
	if b {
		return 1
	}
	return 0
}
