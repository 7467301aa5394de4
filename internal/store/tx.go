package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/store/db"
)

// Tx is one transaction.
type Tx struct {
	ctx context.Context
	tx  *sql.Tx
	q   *db.Queries
	// kept and began are of a transaction that only reads.
	kept  *readingsKept
	began int64
	// measured are the specimens whose readings this transaction changed.
	measured map[string]bool
}

// Read runs f on one consistent state of the record.
func (s *Store) Read(ctx context.Context, f func(*Tx) error) error {
	t := &Tx{ctx: ctx, kept: s.kept}
	if s.kept != nil {
		t.began = s.kept.begin()
	}
	return t.run(s.reader, f, (*sql.Tx).Commit)
}

// Write runs f in one transaction that is committed to disk when Write returns
// nil, and undone otherwise.
func (s *Store) Write(ctx context.Context, f func(*Tx) error) error {
	if s.ReadOnly() {
		return bench.ErrReadOnly
	}
	err := s.write(ctx, f)
	s.changes.Add(1) // after an error too: a commit may have been kept
	return err
}

// Changes counts the transactions that may have changed the record since it was
// opened. Telemetry of devices is not counted.
func (s *Store) Changes() int64 { return s.changes.Load() }

// Changed counts a change that was written quietly.
func (s *Store) Changed() { s.changes.Add(1) }

// WriteQuietly is Write for what no computed answer hangs on.
func (s *Store) WriteQuietly(ctx context.Context, f func(*Tx) error) error {
	if s.ReadOnly() {
		return bench.ErrReadOnly
	}
	return s.write(ctx, f)
}

func (s *Store) write(ctx context.Context, f func(*Tx) error) error {
	t := &Tx{ctx: ctx, measured: map[string]bool{}}
	return t.run(s.writer, f, func(tx *sql.Tx) error {
		if len(t.measured) == 0 {
			return tx.Commit()
		}
		s.kept.committing(t.measured)
		defer s.kept.committed(t.measured)
		return tx.Commit()
	})
}

// run is f in one transaction of a pool, which ends by commit, or by being undone.
func (t *Tx) run(pool *sql.DB, f func(*Tx) error, commit func(*sql.Tx) error) (err error) {
	if t.tx, err = pool.BeginTx(t.ctx, nil); err != nil {
		return fmt.Errorf("begin: %w", err)
	}
	defer func() {
		if err != nil {
			err = errors.Join(err, ignoreDone(t.tx.Rollback()))
		}
	}()
	t.q = db.New(t.tx)
	if err := f(t); err != nil {
		return err
	}
	if err := commit(t.tx); err != nil {
		return fmt.Errorf("commit (it is not known whether the change was kept): %w", err)
	}
	return nil
}

// beginToSee fixes the state of the record that the transaction sees, which SQLite does
// only when the first row is read.
func (t *Tx) beginToSee() error {
	if _, err := t.tx.ExecContext(t.ctx, "SELECT 1 FROM sqlite_schema LIMIT 1"); err != nil {
		return fmt.Errorf("look at the record: %w", err)
	}
	return nil
}

func ignoreDone(err error) error {
	if errors.Is(err, sql.ErrTxDone) {
		return nil
	}
	return err
}

// NextNumber is what the next entry of a table is numbered: nothing is ever
// deleted, so counting is enough.
func (t *Tx) NextNumber(table string) (int64, error) {
	counts := map[string]func(context.Context) (int64, error){
		"machine": t.q.CountMachines, "resin": t.q.CountResins, "bottle": t.q.CountBottles, "instrument": t.q.CountInstruments,
		"piece": t.q.CountPieces, "review": t.q.CountReviews, "profile": t.q.CountProfiles, "series": t.q.CountSeries, "run": t.q.CountRuns, "plate": t.q.CountPlates,
		"bath": t.q.CountBaths, "device": t.q.CountDevices, "assembly": t.q.CountAssemblies, "reference": t.q.CountReferences, "photograph": t.q.CountPhotographs, "gauge_study": t.q.CountGaugeStudies, "stress_series": t.q.CountStressSeries,
	}
	n, err := counts[table](t.ctx)
	if err != nil {
		return 0, fmt.Errorf("count %s: %w", table, err)
	}
	return n + 1, nil
}

// Try runs a part of the transaction that can be undone by itself: where it fails,
// nothing of it is kept, and the rest can go on.
func (t *Tx) Try(part func() error) error {
	if _, err := t.tx.ExecContext(t.ctx, "SAVEPOINT part"); err != nil {
		return fmt.Errorf("begin a part: %w", err)
	}
	err := part()
	end := "RELEASE part"
	if err != nil {
		end = "ROLLBACK TO part; RELEASE part"
	}
	if _, failed := t.tx.ExecContext(t.ctx, end); failed != nil {
		return errors.Join(err, fmt.Errorf("end a part: %w", failed))
	}
	return err
}

// Context ends when the one who asked has gone.
func (t *Tx) Context() context.Context { return t.ctx }

// DeferReferences checks references at the end of this transaction instead of
// at each statement.
func (t *Tx) DeferReferences() error {
	if _, err := t.tx.ExecContext(t.ctx, "PRAGMA defer_foreign_keys = ON"); err != nil {
		return fmt.Errorf("defer references: %w", err)
	}
	return nil
}
