package work_test

import (
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store/storetest"
	"ojime/internal/work"
	"ojime/internal/work/benchview"
	"ojime/internal/work/dialin"
)

func (d *desk) next() []benchview.NextStep {
	d.t.Helper()
	return must(d.w.BenchView.Bench(d.t.Context()))(d.t).Next
}

// stepSays finds the step that leads to a page, and gives its words.
func (d *desk) stepSays(link string) string {
	d.t.Helper()
	for _, s := range d.next() {
		if s.Link == link {
			return s.Title + ": " + s.Why
		}
	}
	return ""
}

// An empty record leads through its first steps, each gone when it is done.
func TestAnEmptyBenchLeadsThroughTheFirstSteps(t *testing.T) {
	s := storetest.Open(t)
	d := &desk{t: t, clock: time.Date(2026, 9, 1, 9, 0, 0, 0, time.UTC)}
	d.w = work.New(s, func() time.Time { return d.clock }, strings.NewReader(strings.Repeat("an even chance, ", 4000)))
	if steps := d.next(); len(steps) != 1 || steps[0].Link != "/kit/machines/new" {
		t.Fatalf("an empty record: %+v", steps)
	}
	m := bench.Machine{Name: "Ossik 7", LightEngine: "masked_lcd", WidthMM: 160, DepthMM: 90, HeightMM: 160, PxX: quantity.Ptr[int64](4000), PxY: quantity.Ptr[int64](2250), DialStepS: 0.1, ReleaseS: quantity.Ptr(1.0)}
	must(d.w.Kit.SaveMachine(t.Context(), m))(t)
	for _, link := range []string{"/kit/resins/new", "/kit/pieces/new", "/verdict/new"} {
		if d.stepSays(link) == "" {
			t.Errorf("nothing leads to %s: %+v", link, d.next())
		}
	}
	if d.stepSays("/dial-in/new") != "" {
		t.Error("a series is asked for before there is a resin")
	}
	must(d.w.Kit.SaveResin(t.Context(), bench.Resin{Name: "Grey", BottleML: quantity.Ptr(500.0), PriceList: 9, PriceTaxIncluded: true}))(t)
	if d.stepSays("/kit/resins/new") != "" || d.stepSays("/dial-in/new") == "" {
		t.Errorf("after a resin: %+v", d.next())
	}
}

// road is which steps are done, and which comes next.
func (d *desk) road() (done []string, next string) {
	d.t.Helper()
	for _, s := range must(d.w.BenchView.Bench(d.t.Context()))(d.t).Road {
		if s.Done {
			done = append(done, s.Title)
		}
		if s.Next {
			next += s.Title
		}
	}
	return done, next
}

func TestTheRoadSaysWhatIsDoneAndWhatComesNext(t *testing.T) {
	d := newDesk(t)
	// The desk has all but a question: what comes next may stand before what is done.
	if done, next := d.road(); len(done) != 5 || next != "State the question" {
		t.Errorf("done %v, next %q", done, next)
	}
	must(d.w.Reviews.SaveReview(t.Context(), bench.Review{Question: "Which?", Policy: "maker_default", MachineIDs: bench.IDs{d.machine.ID}}))(t)
	if _, next := d.road(); next != "Print" {
		t.Errorf("next %q", next)
	}
	sheet := d.runOf(1, nil)
	if _, next := d.road(); next != "Say what became of the copies" {
		t.Errorf("next %q", next)
	}
	s := sheet.Specimens[0]
	s.Outcome = "whole"
	must(d.w.Inspect.JudgeSpecimens(t.Context(), sheet.Run.ID, []bench.Specimen{s}))(t)
	if done, next := d.road(); len(done) != 8 || next != "Inspect" {
		t.Errorf("done %v, next %q", done, next)
	}
}

func TestTheBenchSaysWhatPrintsAndWhatWaits(t *testing.T) {
	d := newDesk(t)
	d.withVat(40, 10)
	run := d.prepared(12)
	link := "/runs/" + run.Run.ID
	if says := d.stepSays(link); !strings.HasPrefix(says, "Start R-001 on Ossik 7: It is prepared; ") || !strings.HasSuffix(says, "of the preflight are open.") {
		t.Errorf("prepared: %q", says)
	}
	cord := must(d.w.BenchView.Bench(t.Context()))(t).Cords[0]
	if len(cord.Planned) != 1 || cord.Planned[0].State != "prepared" || cord.Planned[0].Name != "6 × Wedge" || cord.Planned[0].TakeS == nil {
		t.Errorf("on the cord: %+v", cord.Planned)
	}
	d.happens(run, "start", nil)
	d.clock = d.clock.Add(5 * time.Minute)
	if says := d.stepSays(link); !strings.Contains(says, "R-001 prints on Ossik 7") || !strings.Contains(says, "of 100; about") || !strings.Contains(says, "The vat runs dry in layer") {
		t.Errorf("printing: %q", says)
	}
	d.happens(run, "pause", nil)
	if says := d.stepSays(link); !strings.Contains(says, "is paused on Ossik 7") {
		t.Errorf("paused: %q", says)
	}
	d.happens(run, "resume", nil)
	d.clock = d.clock.Add(time.Hour)
	d.happens(run, "finish", nil)
	if says := d.stepSays(link); says != "Judge the plate of R-001: 6 × Wedge on Ossik 7 has no outcome yet, so no rate can count it." {
		t.Errorf("printed: %q", says)
	}
	d.step(run, bench.ProcessStep{Kind: "wash", PlannedS: quantity.Ptr(180.0)})
	d.clock = d.clock.Add(time.Minute)
	found := false
	for _, s := range d.next() {
		found = found || s.Title == "The wash of R-001 goes on" && s.Why == "1 min of 3 min are over."
	}
	if !found {
		t.Errorf("the wash is not told: %+v", d.next())
	}
	list := run.Specimens
	for i := range list {
		list[i].Outcome = "whole"
	}
	must(d.w.Inspect.JudgeSpecimens(t.Context(), run.Run.ID, list))(t)
	for _, s := range d.next() {
		if strings.HasPrefix(s.Title, "Judge") {
			t.Errorf("it was judged, and the bench says %q", s.Title)
		}
	}
}

func TestTheBenchLeadsThroughASeries(t *testing.T) {
	d := newDesk(t)
	plan := dialin.SeriesPlan{MachineID: d.machine.ID, ResinID: d.resin.ID, LayerUM: 50, School: "detail", FromS: 1.6, StepS: 0.4, Cells: 3, BottomLayers: 4, BottomExposureS: 30}
	sheet := must(d.w.DialIn.PlanSeries(t.Context(), plan))(t)
	link := "/dial-in/" + sheet.Series.ID
	if says := d.stepSays(link); says != "Read the cells of E-01: 3 of 3 cells on Ossik 7 are not judged." {
		t.Errorf("%q", says)
	}
	for i, pin := range []float64{0.4, 0.3, 0.2} {
		gap := 0.5 - pin
		must(d.w.DialIn.RecordCell(t.Context(), sheet.Series.ID, int64(i+1), bench.CellReading{SmallestPinMM: &pin, SmallestGapMM: &gap}, dialin.CellSizes{}))(t)
	}
	if says := d.stepSays(link); !strings.HasPrefix(says, "Choose from E-01: Every cell is judged") {
		t.Errorf("%q", says)
	}
	must(d.w.DialIn.Accept(t.Context(), sheet.Series.ID, 2, "none"))(t)
	if says := d.stepSays(link); says != "" {
		t.Errorf("a setting was chosen, and the bench says %q", says)
	}
}

// Beads lie on the cord of their machine, in their window of time, with their shape.
func TestBeadsAreReadByWindowsOfTime(t *testing.T) {
	d := newDesk(t)
	day := 24 * time.Hour
	var codes []string
	for _, lost := range []string{"", "void", ""} {
		codes = append(codes, d.judged(lost, nil).Run.Code)
		d.clock = d.clock.Add(day)
	}
	begin := time.Date(2026, 9, 1, 0, 0, 0, 0, time.UTC)
	window := func(from, to int) (out []string) {
		t.Helper()
		for _, b := range must(d.w.BenchView.Beads(t.Context(), begin.Add(time.Duration(from)*day).UnixMilli(), begin.Add(time.Duration(to)*day).UnixMilli()))(t) {
			out = append(out, b.Code+" "+b.Shape)
		}
		return out
	}
	for _, c := range []struct {
		from, to int
		want     string
	}{{0, 9, codes[0] + " whole," + codes[1] + " ring," + codes[2] + " whole"}, {1, 2, codes[1] + " ring"}, {5, 9, ""}} {
		if got := strings.Join(window(c.from, c.to), ","); got != c.want {
			t.Errorf("from day %d to %d: %s, want %s", c.from, c.to, got, c.want)
		}
	}
}
