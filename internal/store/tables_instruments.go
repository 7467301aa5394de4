package store

import (
	"ojime/internal/bench"
	"ojime/internal/store/db"
)

// Instrument reads one instrument, or bench.ErrNotFound.
func (t *Tx) Instrument(id string) (bench.Instrument, error) {
	row, err := t.q.InstrumentByID(t.ctx, id)
	return bench.Instrument(row), read("instrument", id, err)
}

// SaveInstrument writes an instrument.
func (t *Tx) SaveInstrument(v bench.Instrument) error {
	return saved("instrument", t.q.SaveInstrument(t.ctx, db.SaveInstrumentParams(v)))
}

// Instruments lists every instrument in its order.
func (t *Tx) Instruments() ([]bench.Instrument, error) {
	rows, err := t.q.Instruments(t.ctx)
	return list("instrument", rows, err, func(r db.Instrument) bench.Instrument { return bench.Instrument(r) })
}

// SaveInstrumentCheck appends a check, or takes one back.
func (t *Tx) SaveInstrumentCheck(v bench.InstrumentCheck) error {
	return saved("check of an instrument", t.q.SaveInstrumentCheck(t.ctx, db.SaveInstrumentCheckParams(v)))
}

// InstrumentChecks lists the checks of all instruments in their order.
func (t *Tx) InstrumentChecks() ([]bench.InstrumentCheck, error) {
	rows, err := t.q.InstrumentChecks(t.ctx)
	return list("checks of instruments", rows, err, func(r db.InstrumentCheck) bench.InstrumentCheck { return bench.InstrumentCheck(r) })
}

// SaveGaugeStudy writes a repeatability study.
func (t *Tx) SaveGaugeStudy(v bench.GaugeStudy) error {
	return saved("study", t.q.SaveGaugeStudy(t.ctx, db.SaveGaugeStudyParams(v)))
}

// GaugeStudy reads one study, or bench.ErrNotFound.
func (t *Tx) GaugeStudy(id string) (bench.GaugeStudy, error) {
	row, err := t.q.GaugeStudyByID(t.ctx, id)
	return bench.GaugeStudy(row), read("study", id, err)
}

// GaugeStudies lists every study in its order.
func (t *Tx) GaugeStudies() ([]bench.GaugeStudy, error) {
	rows, err := t.q.GaugeStudies(t.ctx)
	return list("studies", rows, err, func(r db.GaugeStudy) bench.GaugeStudy { return bench.GaugeStudy(r) })
}

// SaveGaugeReading appends a reading of a study, or takes one back.
func (t *Tx) SaveGaugeReading(v bench.GaugeReading) error {
	return saved("reading of a study", t.q.SaveGaugeReading(t.ctx, db.SaveGaugeReadingParams(v)))
}

// GaugeReadings lists every reading of a study, also those taken back.
func (t *Tx) GaugeReadings() ([]bench.GaugeReading, error) {
	rows, err := t.q.GaugeReadings(t.ctx)
	return list("readings of studies", rows, err, func(r db.GaugeReading) bench.GaugeReading { return bench.GaugeReading(r) })
}

// GaugeReadingsOf lists the readings of one study that count, in its order.
func (t *Tx) GaugeReadingsOf(studyID string) ([]bench.GaugeReading, error) {
	rows, err := t.q.GaugeReadingsOfStudy(t.ctx, studyID)
	return list("readings of study", rows, err, func(r db.GaugeReading) bench.GaugeReading { return bench.GaugeReading(r) })
}

// CountReadingsOfInstrument counts the readings that were taken with an instrument between
// two instants and count.
func (t *Tx) CountReadingsOfInstrument(instrumentID string, fromMS, untilMS int64) (int64, error) {
	n, err := t.q.CountReadingsOfInstrument(t.ctx, db.CountReadingsOfInstrumentParams{InstrumentID: &instrumentID, FromMs: fromMS, UntilMs: untilMS})
	return n, read("readings of instrument", instrumentID, err)
}
