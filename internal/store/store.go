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
	// kept is nil where another process may write.
	kept *printsKept
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
	s := &Store{dir: dir, lock: lock, kept: newPrintsKept()}
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
