package work_test

import (
	"errors"
	"math"
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/evidence"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/aftercare"
	"ojime/internal/work/printing"
	"ojime/internal/work/tally"
	"ojime/internal/work/task"
	"ojime/internal/work/upkeep"
)

// treated is a finished run whose resin states three minutes of wash and two of cure.
func (d *desk) treated() printing.RunSheet {
	d.t.Helper()
	d.resin.StatedWashS, d.resin.StatedCureS = quantity.Ptr(180.0), quantity.Ptr(120.0)
	d.resin = must(d.w.Kit.SaveResin(d.t.Context(), d.resin))(d.t).Resin
	d.withVat(60, 10)
	run := d.prepared(60)
	d.happens(run, "start", nil)
	d.clock = d.clock.Add(time.Hour)
	d.happens(run, "finish", nil)
	return run
}

func (d *desk) step(run printing.RunSheet, s bench.ProcessStep) aftercare.Aftermath {
	d.t.Helper()
	return must(d.w.Aftercare.SaveStep(d.t.Context(), run.Run.ID, s))(d.t)
}

func stepOf(t *testing.T, a aftercare.Aftermath, kind string) aftercare.AfterStep {
	t.Helper()
	for _, s := range a.Steps {
		if s.Kind == kind {
			return s
		}
	}
	t.Fatalf("no %s", kind)
	return aftercare.AfterStep{}
}

func TestStepsAfterAPrintAreTimedAndHeldAgainstTheLabel(t *testing.T) {
	d := newDesk(t)
	run := d.treated()
	bath := must(d.w.Upkeep.SaveBath(t.Context(), bench.Bath{Name: "First", Solvent: "ethanol", VolumeML: quantity.Ptr(2000.0), LifePrints: quantity.Ptr[int64](1)}))(t)
	d.step(run, bench.ProcessStep{Kind: "wash", BathID: &bath.Bath.ID})
	d.clock = d.clock.Add(2 * time.Minute)
	wash := stepOf(t, must(d.w.Aftercare.After(t.Context(), run.Run.ID))(t), "wash")
	if wash.Running == nil || wash.TookS != nil || *wash.PlannedS != 180 {
		t.Fatalf("while it goes on: %+v", wash)
	}
	ended := *wash.Running
	ended.EndedMS = quantity.Ptr(d.clock.UnixMilli())
	after := d.step(run, ended)
	if wash = stepOf(t, after, "wash"); *wash.TookS != 120 || wash.Verdict != "short" || !strings.Contains(wash.Says, "0.67") {
		t.Errorf("ended: %+v", wash)
	}
	if b := after.Baths[0]; b.Prints != 1 || b.State != "due" {
		t.Errorf("the bath counts %d prints, %s", b.Prints, b.State)
	}
	cure := stepOf(t, d.step(run, bench.ProcessStep{Kind: "cure", StartedMS: d.clock.UnixMilli() - 200_000, EndedMS: quantity.Ptr(d.clock.UnixMilli())}), "cure")
	if cure.Verdict != "over" || !strings.Contains(cure.Says, "brittle") {
		t.Errorf("over-cured: %+v", cure)
	}
	if r := must(d.w.Printing.RunSheet(t.Context(), run.Run.ID))(t).Run; *r.WashS != 120 || *r.CureS != 200 {
		t.Errorf("the run says wash %v, cure %v", r.WashS, r.CureS)
	}
	if _, err := d.w.Aftercare.SaveStep(t.Context(), run.Run.ID, bench.ProcessStep{Kind: "cure", BathID: &bath.Bath.ID}); err == nil {
		t.Error("a cure in a bath was taken")
	}
	renewed := must(d.w.Upkeep.RenewBath(t.Context(), bath.Bath.ID, upkeep.Renewal{WentTo: "collected"}))(t)
	ledger := must(d.w.Upkeep.AddWaste(t.Context(), bench.Waste{Kind: "scrap", Amount: 12, WentTo: "cured"}))(t)
	if renewed.Prints != 0 || len(ledger.Lines) != 2 || ledger.Lines[1].Kind != "solvent" || ledger.Lines[1].Amount != 2000 || ledger.Lines[0].Unit != "g" || ledger.Rule == "" {
		t.Errorf("renewed %+v, ledger %+v", renewed, ledger)
	}
}

func TestOutcomesKeepWhereTheyBeganAndSwapsAreMarked(t *testing.T) {
	d := newDesk(t)
	run := d.treated()
	list := run.Specimens
	for i := range list {
		list[i].Outcome = "whole"
	}
	ruin(&list[0], "lost", "void", "printed", "machine")
	list[0].Defects[0].Severity, list[0].Defects[0].BeganMM = "grave", quantity.Ptr(1.02)
	sheet := must(d.w.Inspect.JudgeSpecimens(t.Context(), run.Run.ID, list))(t)
	if d := sheet.Specimens[0].Defects[0]; *d.BeganLayer != 21 || d.Severity != "grave" {
		t.Errorf("began at %d", *d.BeganLayer)
	}
	list = sheet.Specimens
	beyond := list[0].Defects[0]
	beyond.BeganMM, beyond.BeganLayer = nil, quantity.Ptr(run.Run.Layers+1)
	list[0].Defects = []bench.Defect{beyond}
	var field *quantity.FieldError
	if _, err := d.w.Inspect.JudgeSpecimens(t.Context(), run.Run.ID, list); !errors.As(err, &field) || field.Path != "outcomes[0].defects[0].began_layer" {
		t.Errorf("beyond the last layer: %v", err)
	}
	a, b := sheet.Specimens[1], sheet.Specimens[2]
	swapped := must(d.w.Aftercare.Swap(t.Context(), a.Code, b.Code))(t)
	if swapped.Specimens[1].SwappedWith != b.Code || swapped.Specimens[2].SwappedWith != a.Code || !swapped.Specimens[1].SetAside() || len(swapped.SetAside) != 3 {
		t.Errorf("swapped: %+v, set aside %v", swapped.Specimens[1:3], swapped.SetAside)
	}
	// Judging does not clear a doubt.
	if again := must(d.w.Inspect.JudgeSpecimens(t.Context(), run.Run.ID, swapped.Specimens))(t); again.Specimens[1].SwappedWith == "" {
		t.Error("saving outcomes forgot the swap")
	}
	for _, with := range []string{a.Code, "S-999-01"} {
		if _, err := d.w.Aftercare.Swap(t.Context(), a.Code, with); err == nil {
			t.Errorf("swapped with %s", with)
		}
	}
	if right := must(d.w.Aftercare.Swap(t.Context(), b.Code, ""))(t); right.Specimens[1].SwappedWith != "" || right.Specimens[2].SwappedWith != "" {
		t.Errorf("put right: %+v", right.Specimens[1:3])
	}
}

// The counts that triggers keep are those of counting anew.
func TestTalliesAreWhatCountingGives(t *testing.T) {
	d := newDesk(t)
	run := d.treated()
	list := run.Specimens
	tally := func() bench.Counts {
		t.Helper()
		return bench.CountsOf(must(task.ReadOne(t.Context(), d.w.Base, run.Run.ID, (*store.Tx).TalliesOfRun))(t))
	}
	if got := tally(); got.Specimens != 6 || got.Pending != 6 || got.Shape() != "open" {
		t.Errorf("new: %+v", got)
	}
	set := func(i int, outcome, origin, fault string) {
		ruin(&list[i], outcome, "void", origin, fault)
	}
	for i := range list {
		set(i, "whole", "printed", "none")
	}
	set(0, "lost", "printed", "machine")
	set(1, "lost", "wash", "operator")
	set(2, "micro_defect", "printed", "unknown")
	set(3, "lost", "unknown", "resin")
	list = must(d.w.Inspect.JudgeSpecimens(t.Context(), run.Run.ID, list))(t).Specimens
	if got := tally(); got.Pending != 0 || got.Whole != 2 || got.Micro != 1 || got.Lost != 3 || got.Failed != 2 || got.ByMachine != 1 || got.ByResin != 1 || got.Accidents != 1 || got.MicroPrinted != 1 || got.Shape() != "split" {
		t.Errorf("judged: %+v", got)
	}
	for i := range list {
		set(i, "whole", "printed", "none")
	}
	must(d.w.Inspect.JudgeSpecimens(t.Context(), run.Run.ID, list))(t)
	if got := tally(); got != (bench.Counts{Specimens: 6, Whole: 6}) || got.Shape() != "whole" {
		t.Errorf("judged anew: %+v", got)
	}
}

func TestBottlesAreWeighedAndEmptied(t *testing.T) {
	d := newDesk(t)
	card := func() upkeep.BottleCard { return must(d.w.Upkeep.BottleCards(t.Context()))(t)[0] }
	if got := card(); *got.LeftML != 1000 {
		t.Errorf("full: %+v", got)
	}
	d.treated()
	if got := card(); got.LeftML != nil || !strings.Contains(got.Reason, "1 of 1 prints") {
		t.Errorf("a print without its use: %+v", got)
	}
	weigh := bench.BottleEvent{Kind: "weighed", GrossG: quantity.Ptr(540.0)}
	if got := must(d.w.Upkeep.HappenBottle(t.Context(), d.bottle.ID, weigh))(t); got.LeftML != nil || !strings.Contains(got.Reason, "empty bottle weighs") {
		t.Errorf("without a tare: %+v", got)
	}
	d.bottle.TareG = quantity.Ptr(100.0)
	d.bottle = must(d.w.Kit.SaveBottle(t.Context(), d.bottle))(t)
	if got := card(); got.LeftML == nil || math.Abs(*got.LeftML-400) > 1e-9 {
		t.Errorf("weighed: %+v", got)
	}
	weigh.GrossG = quantity.Ptr(90.0)
	if _, err := d.w.Upkeep.HappenBottle(t.Context(), d.bottle.ID, weigh); err == nil {
		t.Error("less than the empty bottle was taken")
	}
	if got := must(d.w.Upkeep.HappenBottle(t.Context(), d.bottle.ID, bench.BottleEvent{Kind: "emptied"}))(t); *got.LeftML != 0 {
		t.Errorf("emptied: %+v", got)
	}
}

func TestWhatIsDueAndWhatIsContradicted(t *testing.T) {
	d := newDesk(t)
	run := d.treated()
	d.machine.FilmLifeLayers, d.machine.Version = quantity.Ptr(float64(run.Run.Layers)), must(d.w.Kit.Machines(t.Context()))(t)[0].Machine.Version
	must(d.w.Kit.SaveMachine(t.Context(), d.machine))(t)
	due := func(what string) upkeep.Due {
		t.Helper()
		for _, x := range must(d.w.Upkeep.Upkeep(t.Context()))(t).Due {
			if x.What == what {
				return x
			}
		}
		return upkeep.Due{}
	}
	if got := due("film"); got.State != "due" || *got.Share != 1 || !strings.Contains(got.Why, "not known") {
		t.Errorf("film: %+v", got)
	}
	must(d.w.Kit.AddEvent(t.Context(), bench.MachineEvent{MachineID: d.machine.ID, AtMS: d.clock.UnixMilli(), Kinds: bench.IDs{"film"}}))(t)
	if got := due("film"); got.State != "fine" || *got.Share != 0 {
		t.Errorf("a new film: %+v", got)
	}
	r := bench.Reminder{MachineID: d.machine.ID, Kind: "filter", Every: 30, Unit: "days", Source: "maker"}
	list := must(d.w.Upkeep.SaveReminder(t.Context(), r))(t)
	if got := due("filter"); got.State != "unknown" {
		t.Errorf("never changed on record: %+v", got)
	}
	must(d.w.Kit.AddEvent(t.Context(), bench.MachineEvent{MachineID: d.machine.ID, AtMS: d.clock.UnixMilli(), Kinds: bench.IDs{"filter"}}))(t)
	d.clock = d.clock.Add(27 * 24 * time.Hour)
	if got := due("filter"); got.State != "soon" || *got.Share != 0.9 {
		t.Errorf("after 27 of 30 days: %+v", got)
	}
	home := must(d.w.BenchView.Bench(t.Context()))(t)
	if len(home.Due) == 0 {
		t.Error("the bench does not say what is due")
	}
	r = list.Reminders[0]
	r.Contradiction = "still white after a year"
	if after := must(d.w.Upkeep.SaveReminder(t.Context(), r))(t); after.Reminders[0].ContradictedMS == nil || due("filter").What != "" {
		t.Errorf("contradicted: %+v", after.Reminders)
	}
}

func TestAnUpgradeSplitsWhatWasPrinted(t *testing.T) {
	d := newDesk(t)
	d.treated()
	d.clock = d.clock.Add(time.Hour)
	e := must(d.w.Kit.AddEvent(t.Context(), bench.MachineEvent{MachineID: d.machine.ID, AtMS: d.clock.UnixMilli(), Kinds: bench.IDs{"upgrade"},
		Changes: bench.Changes{{What: "lift", Undoable: true}, {What: "firmware"}}}))(t)
	d.clock = d.clock.Add(time.Hour)
	d.treated()
	set := must(d.w.Experiment.ChangeSet(t.Context(), e.ID))(t)
	if len(set.Plan.Cells) != 3 || len(set.Plan.Alone) != 2 || len(set.Pairs) != 1 || len(set.Pairs[0].BeforeRunIDs) != 1 || len(set.Pairs[0].AfterRunIDs) != 1 {
		t.Errorf("%+v, %+v", set.Plan, set.Pairs)
	}
	if _, err := d.w.Kit.AddEvent(t.Context(), bench.MachineEvent{MachineID: d.machine.ID, AtMS: 1, Kinds: bench.IDs{"upgrade"}, Changes: bench.Changes{{}}}); err == nil {
		t.Error("a change without a name was taken")
	}
}

func TestFailureRatesCountRunsAndSpecimens(t *testing.T) {
	d := newDesk(t)
	run := d.treated()
	list := run.Specimens
	for i := range list {
		list[i].Outcome = "whole"
	}
	ruin(&list[0], "lost", "void", "printed", "machine")
	ruin(&list[1], "lost", "void", "handling", "none")
	list = must(d.w.Inspect.JudgeSpecimens(t.Context(), run.Run.ID, list))(t).Specimens
	rates := must(d.w.Tally.FailureRates(t.Context()))(t)
	for _, rows := range [][]tally.FailureRow{rates.Machines, rates.Resins, rates.Profiles, rates.Pieces} {
		if len(rows) != 1 || rows[0].Runs.Tried != 1 || rows[0].Runs.Failed != 1 || rows[0].Specimens.Tried != 6 || rows[0].Specimens.Failed != 1 || !rows[0].FewRuns || rows[0].Name == "" {
			t.Errorf("%+v", rows)
		}
	}
	if rates.Machines[0].Specimens.Attributed != 1 || rates.Resins[0].Specimens.Attributed != 0 || rates.Machines[0].Accidents != 1 {
		t.Errorf("attributed to the machine %d, to the resin %d", rates.Machines[0].Specimens.Attributed, rates.Resins[0].Specimens.Attributed)
	}
	// The answer is kept only while the record stands still.
	list[1].Defects[0].Origin = "printed"
	must(d.w.Inspect.JudgeSpecimens(t.Context(), run.Run.ID, list))(t)
	if again := must(d.w.Tally.FailureRates(t.Context()))(t); again.Machines[0].Specimens.Failed != 2 {
		t.Errorf("after a change: %+v", again.Machines[0].Specimens)
	}
	where := must(d.w.Upkeep.MachineFailures(t.Context(), d.machine.ID))(t)
	if where.Wear[0].Sentence == "" || len(where.Wear) != 2 || len(where.Places.Patterns) != 0 {
		t.Errorf("%+v", where)
	}
}

// What a new panel or an upgrade parted is not pooled in a review.
func TestSetUpsArePartedByKnotsThatChangeTheMachine(t *testing.T) {
	d := newDesk(t)
	d.treated()
	for _, kind := range []string{"film", "panel"} {
		d.clock = d.clock.Add(time.Hour)
		must(d.w.Kit.AddEvent(t.Context(), bench.MachineEvent{MachineID: d.machine.ID, AtMS: d.clock.UnixMilli(), Kinds: bench.IDs{kind}}))(t)
		d.clock = d.clock.Add(time.Hour)
		d.treated()
	}
	review := must(d.w.Reviews.SaveReview(t.Context(), bench.Review{Question: "Which?", Policy: "maker_default", UnderTest: bench.IDs{},
		MachineIDs: bench.IDs{d.machine.ID}, ResinIDs: bench.IDs{d.resin.ID}, PieceIDs: bench.IDs{d.piece.Piece.ID}}))(t)
	sides := must(d.w.Reviews.SetUps(t.Context(), review.ID))(t)
	if len(sides) != 2 || len(sides[0].Runs) != 2 || sides[0].Since != "" || !strings.Contains(sides[1].Label, "after panel of 2026-09-01") {
		t.Errorf("%+v", sides)
	}
}

// Of four prints two are lost whole: that is worth far less than sixteen specimens that
// fell one by one.
func TestSpecimensThatFailTogetherTellLess(t *testing.T) {
	d := newDesk(t)
	for i := range 4 {
		d.seen(d.profile.ID, 4, 4*(i%2), 30, 0.2, 30*time.Minute)
	}
	row := must(d.w.Tally.FailureRates(t.Context()))(t).Machines[0]
	apart := must(evidence.Rate(evidence.Count{Events: 8, Trials: 16}))(t)
	s := row.Specimens
	if s.Failed != 8 || s.Tried != 16 || *s.All.Rate != 0.5 || s.All.CI[1]-s.All.CI[0] < 1.4*(apart.CI[1]-apart.CI[0]) {
		t.Errorf("%d of %d, %v; apart %v", s.Failed, s.Tried, *s.All.CI, *apart.CI)
	}
	if over := row.Runs; over.Failed != 2 || over.Tried != 4 || row.FewRuns {
		t.Errorf("%+v", over)
	}
	// None marked is no proof that none ever will be.
	if m := row.Micro; *m.Rate != 0 || m.UpperIfNone == nil || *m.UpperIfNone < 0.15 {
		t.Errorf("%+v", m)
	}
}
