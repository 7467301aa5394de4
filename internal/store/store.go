// Package store keeps the record in SQLite: one writer, a pool of readers,
// migrations that only go forward, and queries that sqlc has checked against
// the schema. It returns the types of the record and knows none of its rules.
package store

import (
	"context"
	"database/sql"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"net/url"
	"os"
	"path/filepath"
	"sync/atomic"

	"github.com/pressly/goose/v3"
	"modernc.org/sqlite"
	sqlite3 "modernc.org/sqlite/lib"

	"ojime/internal/bench"
	"ojime/internal/store/db"
)

//go:embed migrations/*.sql
var migrations embed.FS

// readers is the size of the pool of read connections.
const readers = 4

// Store is an open record in a folder: ojime.db and the meshes beside it.
type Store struct {
	dir    string
	writer *sql.DB
	reader *sql.DB
	// changes counts what was written, so that answers may be kept meanwhile.
	changes atomic.Int64
}

// Open creates the folder where it is missing, brings the database forward and
// opens it. A database from a newer version of the program is refused.
func Open(ctx context.Context, dir string) (*Store, error) {
	if err := os.MkdirAll(filepath.Join(dir, "meshes"), 0o700); err != nil {
		return nil, fmt.Errorf("make the data folder: %w", err)
	}
	file := filepath.Join(dir, "ojime.db")
	writer, err := connect(file, 1, "immediate")
	if err != nil {
		return nil, err
	}
	if err := migrate(ctx, writer); err != nil {
		return nil, errors.Join(fmt.Errorf("bring %s forward: %w", file, err), writer.Close())
	}
	reader, err := connect(file, readers, "deferred")
	if err != nil {
		return nil, errors.Join(err, writer.Close())
	}
	return &Store{dir: dir, writer: writer, reader: reader}, nil
}

func connect(file string, size int, lock string) (*sql.DB, error) {
	query := url.Values{"_txlock": {lock}, "_pragma": {
		"foreign_keys(1)", "journal_mode(WAL)", "synchronous(FULL)", "busy_timeout(5000)",
	}}
	pool, err := sql.Open("sqlite", "file:"+url.PathEscape(file)+"?"+query.Encode())
	if err != nil {
		return nil, fmt.Errorf("open %s: %w", file, err)
	}
	pool.SetMaxOpenConns(size)
	pool.SetMaxIdleConns(size)
	return pool, nil
}

func migrate(ctx context.Context, pool *sql.DB) error {
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	provider, err := goose.NewProvider(goose.DialectSQLite3, pool, files)
	if err != nil {
		return err
	}
	have, err := provider.GetDBVersion(ctx)
	if err != nil {
		return err
	}
	sources := provider.ListSources()
	if newest := sources[len(sources)-1].Version; have > newest {
		return fmt.Errorf("this record has version %d, the program knows up to %d; use a newer program", have, newest)
	}
	_, err = provider.Up(ctx)
	return err
}

// Close closes both pools.
func (s *Store) Close() error { return errors.Join(s.reader.Close(), s.writer.Close()) }

// Tx is one transaction.
type Tx struct {
	ctx context.Context
	tx  *sql.Tx
	q   *db.Queries
}

// Read runs f on one consistent state of the record.
func (s *Store) Read(ctx context.Context, f func(*Tx) error) error {
	return inTx(ctx, s.reader, f)
}

// Write runs f in one transaction that is committed to disk when Write returns
// nil, and undone otherwise.
func (s *Store) Write(ctx context.Context, f func(*Tx) error) error {
	err := inTx(ctx, s.writer, f)
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
	return inTx(ctx, s.writer, f)
}

func inTx(ctx context.Context, pool *sql.DB, f func(*Tx) error) (err error) {
	tx, err := pool.BeginTx(ctx, nil)
	if err != nil {
		return fmt.Errorf("begin: %w", err)
	}
	defer func() {
		if err != nil {
			err = errors.Join(err, ignoreDone(tx.Rollback()))
		}
	}()
	if err := f(&Tx{ctx: ctx, tx: tx, q: db.New(tx)}); err != nil {
		return err
	}
	if err := tx.Commit(); err != nil {
		return fmt.Errorf("commit (it is not known whether the change was kept): %w", err)
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
		"bath": t.q.CountBaths, "device": t.q.CountDevices,
	}
	n, err := counts[table](t.ctx)
	if err != nil {
		return 0, fmt.Errorf("count %s: %w", table, err)
	}
	return n + 1, nil
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

// Check runs SQLite's own checks of integrity and references.
func (s *Store) Check(ctx context.Context) ([]string, error) {
	var wrong []string
	for _, pragma := range []string{"integrity_check", "foreign_key_check"} {
		rows, err := s.reader.QueryContext(ctx, "SELECT * FROM pragma_"+pragma)
		if err != nil {
			return nil, fmt.Errorf("%s: %w", pragma, err)
		}
		found, err := firstColumn(rows)
		if err != nil {
			return nil, fmt.Errorf("%s: %w", pragma, err)
		}
		for _, line := range found {
			if line != "ok" {
				wrong = append(wrong, pragma+": "+line)
			}
		}
	}
	return wrong, nil
}

func firstColumn(rows *sql.Rows) ([]string, error) {
	defer func() { _ = rows.Close() }() // rows.Err below reports what matters
	var out []string
	columns, err := rows.Columns()
	if err != nil {
		return nil, err
	}
	for rows.Next() {
		values := make([]any, len(columns))
		for i := range values {
			values[i] = new(any)
		}
		if err := rows.Scan(values...); err != nil {
			return nil, err
		}
		out = append(out, fmt.Sprint(*values[0].(*any)))
	}
	return out, rows.Err()
}

// Backup writes a consistent copy of the database to a new file.
func (s *Store) Backup(ctx context.Context, file string) error {
	if _, err := os.Stat(file); err == nil {
		return fmt.Errorf("%s is there already; choose another name", file)
	}
	if _, err := s.writer.ExecContext(ctx, "VACUUM INTO ?", file); err != nil {
		return fmt.Errorf("back up to %s: %w", file, err)
	}
	return nil
}

func read(what, id string, err error) error {
	switch {
	case err == nil:
		return nil
	case errors.Is(err, sql.ErrNoRows):
		return fmt.Errorf("%s %s: %w", what, id, bench.ErrNotFound)
	}
	return fmt.Errorf("read %s %s: %w", what, id, err)
}

func saved(what string, err error) error {
	var failure *sqlite.Error
	if errors.As(err, &failure) {
		switch failure.Code() {
		case sqlite3.SQLITE_CONSTRAINT_UNIQUE, sqlite3.SQLITE_CONSTRAINT_PRIMARYKEY:
			return fmt.Errorf("%s is there already: %w", what, bench.ErrConflict)
		case sqlite3.SQLITE_CONSTRAINT_FOREIGNKEY:
			return fmt.Errorf("%s refers to an entry that does not exist: %w", what, bench.ErrConflict)
		case sqlite3.SQLITE_CONSTRAINT_CHECK:
			return fmt.Errorf("%s holds a value that the record refuses (%v): %w", what, failure, bench.ErrConflict)
		}
	}
	if err != nil {
		return fmt.Errorf("save %s: %w", what, err)
	}
	return nil
}

func list[Row, Entry any](what string, rows []Row, err error, convert func(Row) Entry) ([]Entry, error) {
	if err != nil {
		return nil, fmt.Errorf("list %s: %w", what, err)
	}
	out := make([]Entry, len(rows))
	for i, r := range rows {
		out[i] = convert(r)
	}
	return out, nil
}
