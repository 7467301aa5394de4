// Package work is what a user does, one package a step of the work. Each task is
// one function that loads, asks the core and saves in one transaction. The
// interface, the demo and the command line all call the same ones.
package work

import (
	"io"
	"time"

	"ojime/internal/store"
	"ojime/internal/work/aftercare"
	"ojime/internal/work/benchview"
	"ojime/internal/work/bundle"
	"ojime/internal/work/calendar"
	"ojime/internal/work/dataset"
	"ojime/internal/work/diagnosis"
	"ojime/internal/work/dialin"
	"ojime/internal/work/disclosure"
	"ojime/internal/work/experiment"
	"ojime/internal/work/feed"
	"ojime/internal/work/findings"
	"ojime/internal/work/firstdays"
	"ojime/internal/work/history"
	"ojime/internal/work/inspect"
	"ojime/internal/work/instruments"
	"ojime/internal/work/kit"
	"ojime/internal/work/ledger"
	"ojime/internal/work/money"
	"ojime/internal/work/panels"
	"ojime/internal/work/photographs"
	"ojime/internal/work/planning"
	"ojime/internal/work/printing"
	"ojime/internal/work/publish"
	"ojime/internal/work/readers"
	"ojime/internal/work/record"
	"ojime/internal/work/repeat"
	"ojime/internal/work/resincard"
	"ojime/internal/work/reviews"
	"ojime/internal/work/shorthand"
	"ojime/internal/work/sliced"
	"ojime/internal/work/stress"
	"ojime/internal/work/tables"
	"ojime/internal/work/tally"
	"ojime/internal/work/task"
	"ojime/internal/work/templates"
	"ojime/internal/work/texts"
	"ojime/internal/work/upkeep"
)

// Work is every task on one record, by the step of the work that it belongs to.
type Work struct {
	*task.Base
	Kit         *kit.Tasks
	Disclosure  *disclosure.Tasks
	Instruments *instruments.Tasks
	Templates   *templates.Tasks
	FirstDays   *firstdays.Tasks
	Upkeep      *upkeep.Tasks
	Planning    *planning.Tasks
	DialIn      *dialin.Tasks
	Printing    *printing.Tasks
	Sliced      *sliced.Tasks
	Aftercare   *aftercare.Tasks
	Diagnosis   *diagnosis.Tasks
	Repeat      *repeat.Tasks
	Feed        *feed.Tasks
	Inspect     *inspect.Tasks
	Shorthand   *shorthand.Tasks
	Tables      *tables.Tasks
	Photographs *photographs.Tasks
	Stress      *stress.Tasks
	ResinCard   *resincard.Tasks
	Reviews     *reviews.Tasks
	Findings    *findings.Tasks
	Ledger      *ledger.Tasks
	Money       *money.Tasks
	Readers     *readers.Tasks
	Texts       *texts.Tasks
	Panels      *panels.Tasks
	Tally       *tally.Tasks
	Experiment  *experiment.Tasks
	Calendar    *calendar.Tasks
	History     *history.Tasks
	Dataset     *dataset.Tasks
	Publish     *publish.Tasks
	Record      *record.Tasks
	BenchView   *benchview.Tasks
	Bundle      *bundle.Tasks
}

// New makes the tasks on an open record. The clock and the source of chance are
// arguments, so that the demo can live through two months and tests repeat
// exactly.
func New(s *store.Store, now func() time.Time, random io.Reader) *Work {
	base := task.New(s, now, random)
	w := &Work{Base: base, Kit: kit.New(base), Disclosure: disclosure.New(base), Instruments: instruments.New(base), Upkeep: upkeep.New(base), Inspect: inspect.New(base), Photographs: photographs.New(base), Stress: stress.New(base), ResinCard: resincard.New(base), Findings: findings.New(base), Ledger: ledger.New(base), Money: money.New(base), Readers: readers.New(base), Texts: texts.New(base), Tally: tally.New(base)}
	w.Templates = templates.New(base, w.Kit)
	w.FirstDays = firstdays.New(base, w.Kit)
	w.Planning = planning.New(base, w.Kit)
	w.Reviews = reviews.New(base, w.Planning)
	w.Experiment = experiment.New(base, w.Kit, w.Planning)
	w.DialIn = dialin.New(base, w.Kit, w.Planning)
	w.Printing = printing.New(base, w.Kit, w.Upkeep, w.Planning)
	w.Aftercare = aftercare.New(base, w.Upkeep)
	w.Sliced = sliced.New(base, w.Kit)
	w.Diagnosis = diagnosis.New(base, w.Upkeep, w.Planning)
	w.Repeat = repeat.New(base, w.Printing)
	w.Shorthand = shorthand.New(base, w.Kit, w.Upkeep, w.Printing, w.Inspect)
	w.Tables = tables.New(base, w.Kit, w.Printing, w.Inspect)
	w.Feed = feed.New(base, w.Planning, w.Printing)
	w.Calendar = calendar.New(base, w.Planning, w.Printing)
	w.History = history.New(base, w.Kit, w.Instruments, w.Templates, w.FirstDays, w.Upkeep, w.Printing, w.Inspect, w.Reviews, w.Tally)
	w.Panels = panels.New(base, w.Photographs)
	w.Dataset = dataset.New(base)
	w.Publish = publish.New(base, w.Planning)
	w.Record = record.New(base, w.Feed)
	w.BenchView = benchview.New(base, w.Upkeep, w.Printing)
	w.Bundle = bundle.New(base, w.Publish, w.Record, func(s *store.Store, at time.Time) (*publish.Tasks, *record.Tasks) {
		other := New(s, func() time.Time { return at }, random)
		return other.Publish, other.Record
	})
	return w
}
