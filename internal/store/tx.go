package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"slices"
	"syscall"

	"modernc.org/sqlite"
	sqlite3 "modernc.org/sqlite/lib"

	"ojime/internal/bench"
	"ojime/internal/store/db"
)

// Tx is one transaction.
type Tx struct {
	ctx context.Context
	tx  *sql.Tx
	q   *db.Queries
	// kept and began are of a transaction that only reads.
	kept  *printsKept
	began int64
	// told is what a transaction that only reads was asked once, nil where it writes.
	told map[any]any
	// runs are those that it has listed.
	runs map[string]bench.Run
	// sees says that its state of the record is fixed.
	sees bool
	// touched are the runs whose specimens, the specimens whose judgement or readings, and the tables that this transaction changed.
	touched map[string]bool
}

// Read runs f on one consistent state of the record.
func (s *Store) Read(ctx context.Context, f func(*Tx) error) error {
	t := &Tx{ctx: ctx, kept: s.kept, told: map[any]any{}, runs: map[string]bench.Run{}}
	if s.kept != nil {
		t.began = s.kept.begin()
	}
	return t.run(s.reader, f, (*sql.Tx).Commit)
}

// Write runs f in one transaction that is committed to disk when Write returns
// nil, and undone otherwise. Once it has begun it is finished, also where the one who
// asked has gone: a page that was left may have been told to save.
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
	return s.hear(ctx, &hearing{}, f)
}

// hear is f in one transaction that writes, of which a listener hears every row.
func (s *Store) hear(ctx context.Context, heard *hearing, f func(*Tx) error) (err error) {
	conn, err := s.writer.Conn(ctx)
	if err != nil {
		return fmt.Errorf("begin: %w", err)
	}
	defer func() { err = errors.Join(err, heard.end(conn)) }()
	t := &Tx{ctx: context.WithoutCancel(ctx), touched: map[string]bool{}}
	heard.touched = t.touched
	if err := heard.begin(conn); err != nil {
		return err
	}
	return t.run(conn, f, s.commit(t))
}

// commit ends a transaction that writes, and says what it changed.
func (s *Store) commit(t *Tx) func(*sql.Tx) error {
	return func(tx *sql.Tx) error {
		if len(t.touched) == 0 {
			return tx.Commit()
		}
		s.kept.committing(t.touched)
		defer s.kept.committed(t.touched)
		return tx.Commit()
	}
}

// begins is a pool, or a connection of it.
type begins interface {
	BeginTx(ctx context.Context, opts *sql.TxOptions) (*sql.Tx, error)
}

// run is f in one transaction of a pool, which ends by commit, or by being undone.
func (t *Tx) run(pool begins, f func(*Tx) error, commit func(*sql.Tx) error) (err error) {
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
		return full(err)
	}
	if err := commit(t.tx); err != nil {
		if gone := t.ctx.Err(); gone != nil && errors.Is(err, sql.ErrTxDone) {
			return fmt.Errorf("ended before its answer: %w", gone)
		}
		return full(fmt.Errorf("commit (it is not known whether the change was kept): %w", err))
	}
	return nil
}

// full says of an error that the disk is full, where that is it.
func full(err error) error {
	var said *sqlite.Error
	if errors.Is(err, syscall.ENOSPC) || errors.As(err, &said) && said.Code() == sqlite3.SQLITE_FULL {
		return fmt.Errorf("%w: %w", bench.ErrFull, err)
	}
	return err
}

// beginToSee fixes the state of the record that the transaction sees, which SQLite does
// only when the first row is read.
func (t *Tx) beginToSee() error {
	if t.sees {
		return nil
	}
	if _, err := t.tx.ExecContext(t.ctx, "SELECT 1 FROM sqlite_schema LIMIT 1"); err != nil {
		return fmt.Errorf("look at the record: %w", err)
	}
	t.sees = true
	return nil
}

func ignoreDone(err error) error {
	if errors.Is(err, sql.ErrTxDone) {
		return nil
	}
	return err
}

// numbered are the tables whose entries have a code with a number.
var numbered = []string{"machine", "resin", "bottle", "instrument", "piece", "review", "profile", "series", "run", "plate", "bath", "device", "assembly", "reference", "photograph", "workroom", "checklist", "unit_photograph", "panel", "finding", "claim", "reader",
	"gauge_study", "stress_series"}

// NextNumber is what the next entry of a table is numbered: one more than the highest.
func (t *Tx) NextNumber(table string) (n int64, err error) {
	if !slices.Contains(numbered, table) {
		return 0, fmt.Errorf("%s has no numbers", table)
	}
	highest := "SELECT coalesce(max(CAST(ltrim(code, 'ABCDEFGHIJKLMNOPQRSTUVWXYZ-') AS INTEGER)), 0) FROM " + table
	if err := t.tx.QueryRowContext(t.ctx, highest).Scan(&n); err != nil {
		return 0, fmt.Errorf("number a %s: %w", tableWord(table), err)
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

// Once asks for something once in a transaction that only reads, however often it is needed, and each time in one that writes.
// The key is a value of a type of its own, so that no two questions share an answer, which is not to be changed.
func Once[K comparable, E any](t *Tx, key K, ask func() (E, error)) (E, error) {
	if known, there := t.told[key]; there {
		return known.(E), nil
	}
	e, err := ask()
	if err == nil && t.told != nil {
		t.told[key] = e
	}
	return e, err
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
