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
	lock   *os.File
	// changes counts what was written, so that answers may be kept meanwhile.
	changes atomic.Int64
}

// fileName is the database within the folder of a record.
const fileName = "ojime.db"

// ErrNoRecord says that a folder holds no record.
var ErrNoRecord = errors.New("holds no record")

// Open creates the folder where it is missing, brings the database forward and
// opens it for this process alone. A database from a newer version of the program
// is refused. All files of the record are its owner's alone.
func Open(ctx context.Context, dir string) (*Store, error) {
	if err := prepare(dir); err != nil {
		return nil, err
	}
	lock, err := lockFolder(dir)
	if err != nil {
		return nil, err
	}
	s := &Store{dir: dir, lock: lock}
	if err := s.open(ctx); err != nil {
		return nil, errors.Join(err, s.Close())
	}
	return s, nil
}

func (s *Store) open(ctx context.Context) (err error) {
	file := filepath.Join(s.dir, fileName)
	if err := bringForward(ctx, file); err != nil {
		return fmt.Errorf("bring %s forward: %w", file, err)
	}
	if s.writer, err = connect(file, 1, url.Values{"_txlock": {"immediate"}, "_pragma": append(pragmas, "foreign_keys(1)")}); err != nil {
		return err
	}
	if s.reader, err = connect(file, readers, url.Values{"_txlock": {"deferred"}, "_pragma": append(pragmas, "foreign_keys(1)")}); err != nil {
		return err
	}
	return restrict(s.dir)
}

// Look opens a record to be read only: nothing of it, nor of its folder, is
// changed. A folder without a record is ErrNoRecord; one of another version than
// the program's cannot be looked at.
func Look(ctx context.Context, dir string) (*Store, error) {
	file := filepath.Join(dir, fileName)
	if info, err := os.Stat(file); errors.Is(err, fs.ErrNotExist) || (err == nil && info.Size() == 0) {
		return nil, fmt.Errorf("%s %w; name the folder with %s in it", dir, ErrNoRecord, fileName)
	} else if err != nil {
		return nil, fmt.Errorf("look at %s: %w", dir, err)
	}
	query := url.Values{"mode": {"ro"}, "_pragma": {"query_only(1)", "busy_timeout(5000)"}}
	if _, err := os.Stat(file + "-wal"); errors.Is(err, fs.ErrNotExist) && !writable(dir) {
		query.Set("immutable", "1") // no shared memory can be made there, and nobody writes
	}
	reader, err := connect(file, readers, query)
	if err != nil {
		return nil, err
	}
	s := &Store{dir: dir, reader: reader}
	if err := current(ctx, reader); err != nil {
		return nil, errors.Join(fmt.Errorf("look at %s: %w", file, err), s.Close())
	}
	return s, nil
}

// ReadOnly reports a record that was opened only to be looked at.
func (s *Store) ReadOnly() bool { return s.writer == nil }

// Dir is the folder of the record.
func (s *Store) Dir() string { return s.dir }

var pragmas = []string{"journal_mode(WAL)", "synchronous(FULL)", "busy_timeout(5000)"}

func connect(file string, size int, query url.Values) (*sql.DB, error) {
	pool, err := sql.Open("sqlite", "file:"+url.PathEscape(file)+"?"+query.Encode())
	if err != nil {
		return nil, fmt.Errorf("open %s: %w", file, err)
	}
	pool.SetMaxOpenConns(size)
	pool.SetMaxIdleConns(size)
	return pool, nil
}

func provider(pool *sql.DB) (*goose.Provider, int64, error) {
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return nil, 0, err
	}
	p, err := goose.NewProvider(goose.DialectSQLite3, pool, files)
	if err != nil {
		return nil, 0, err
	}
	sources := p.ListSources()
	return p, sources[len(sources)-1].Version, nil
}

// current refuses a database that is not of this program's version.
func current(ctx context.Context, pool *sql.DB) error {
	_, newest, err := provider(pool)
	if err != nil {
		return err
	}
	var have sql.NullInt64
	if err := pool.QueryRowContext(ctx, "SELECT max(version_id) FROM goose_db_version WHERE is_applied").Scan(&have); err != nil {
		return fmt.Errorf("it is no database of this program: %w", err)
	}
	switch {
	case have.Int64 > newest:
		return newerErr(have.Int64, newest)
	case have.Int64 < newest:
		return fmt.Errorf("this record has version %d, the program's is %d; start serve once on a folder that can be written, which brings it forward", have.Int64, newest)
	}
	return nil
}

func newerErr(have, newest int64) error {
	return fmt.Errorf("this record has version %d, the program knows up to %d; use a newer program", have, newest)
}

// bringForward migrates a database with foreign keys off, since tables that others
// refer to are made anew, and holds the references against each other afterwards.
func bringForward(ctx context.Context, file string) error {
	pool, err := connect(file, 1, url.Values{"_txlock": {"immediate"}, "_pragma": pragmas})
	if err != nil {
		return err
	}
	err = migrate(ctx, pool)
	return errors.Join(err, pool.Close())
}

func migrate(ctx context.Context, pool *sql.DB) error {
	p, newest, err := provider(pool)
	if err != nil {
		return err
	}
	have, err := p.GetDBVersion(ctx)
	if err != nil {
		return err
	}
	if have > newest {
		return newerErr(have, newest)
	}
	_, err = p.Up(ctx)
	return err
}

// Close closes both pools and gives the folder free.
func (s *Store) Close() error {
	var errs []error
	for _, pool := range []*sql.DB{s.reader, s.writer} {
		if pool != nil {
			errs = append(errs, pool.Close())
		}
	}
	if s.lock != nil {
		errs = append(errs, s.lock.Close())
		s.lock = nil
	}
	return errors.Join(errs...)
}

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
	if s.ReadOnly() {
		return bench.ErrReadOnly
	}
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
	if s.ReadOnly() {
		return bench.ErrReadOnly
	}
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
		"bath": t.q.CountBaths, "device": t.q.CountDevices, "assembly": t.q.CountAssemblies,
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
