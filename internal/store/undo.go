package store

import (
	"context"
	"database/sql"
	"database/sql/driver"
	"errors"
	"fmt"
	"slices"
	"strings"

	"modernc.org/sqlite"
	sqlite3 "modernc.org/sqlite/lib"

	"ojime/internal/bench"
)

// Row is one row that a transaction wrote, with what was there before and after by its columns:
// nil Before where it was made, nil After where it was taken away.
type Row struct {
	Table  string
	rowID  int64
	Before map[string]any
	After  map[string]any
}

// untold are the tables whose rows a transaction does not tell of: what was answered to commands,
// and the history, which only grows.
var untold = []string{"command", "amendment"}

// withoutRows are tables whose rows have no number by which they could be found again: what
// devices sent.
var withoutRows = []string{"device_session", "device_message"}

// neverUndone are those of blind panels: an undo shows what it undid, and what was voted is voted.
var neverUndone = []string{"panel", "panel_seal", "ballot"}

// preUpdates is what a connection of the driver has for those that want to hear of rows.
type preUpdates interface {
	RegisterPreUpdateHook(sqlite.PreUpdateHookFn)
}

// WriteTold is Write that tells which rows it changed, in their order; of more than most rows, or
// where rows cannot be found again, it tells none, and that they are untellable.
func (s *Store) WriteTold(ctx context.Context, most int, f func(*Tx) error) (rows []Row, untellable bool, err error) {
	if s.ReadOnly() {
		return nil, false, bench.ErrReadOnly
	}
	heard := &hearing{tells: true, most: most}
	err = s.hear(ctx, heard, f)
	s.changes.Add(1) // after an error too: a commit may have been kept
	if err != nil || heard.failed != nil {
		return nil, false, errors.Join(err, heard.failed)
	}
	if heard.untellable {
		return nil, true, nil
	}
	rows, err = s.named(ctx, heard.rows)
	return rows, false, err
}

// hearing notes which tables a connection writes to and, where it tells, takes the rows.
type hearing struct {
	touched    map[string]bool
	tells      bool
	most       int
	rows       []heardRow
	untellable bool
	failed     error
}

type heardRow struct {
	table         string
	rowID         int64
	before, after []any
}

func (h *hearing) begin(conn *sql.Conn) error {
	return conn.Raw(func(raw any) error {
		c, can := raw.(preUpdates)
		if !can {
			return errors.New("the driver of the record tells nothing of rows")
		}
		c.RegisterPreUpdateHook(h.hear)
		return nil
	})
}

// end gives the connection back without its listener.
func (h *hearing) end(conn *sql.Conn) error {
	err := conn.Raw(func(raw any) error {
		raw.(preUpdates).RegisterPreUpdateHook(nil)
		return nil
	})
	if errors.Is(err, sql.ErrConnDone) || errors.Is(err, driver.ErrBadConn) { // it is closed, and its listener gone
		err = nil
	}
	return errors.Join(err, conn.Close())
}

func (h *hearing) hear(d sqlite.SQLitePreUpdateData) {
	h.touched[table(d.TableName)] = true
	if !h.tells || slices.Contains(untold, d.TableName) || h.failed != nil || h.untellable {
		return
	}
	if len(h.rows) == h.most || slices.Contains(withoutRows, d.TableName) || slices.Contains(neverUndone, d.TableName) {
		h.rows, h.untellable = nil, true
		return
	}
	r := heardRow{table: d.TableName, rowID: d.NewRowID}
	if d.Op != sqlite3.SQLITE_INSERT {
		r.rowID, r.before = d.OldRowID, make([]any, d.Count())
		h.failed = d.Old(r.before...)
	}
	if d.Op != sqlite3.SQLITE_DELETE && h.failed == nil {
		r.after = make([]any, d.Count())
		h.failed = d.New(r.after...)
	}
	h.rows = append(h.rows, r)
}

// named gives the columns of rows their names.
func (s *Store) named(ctx context.Context, heard []heardRow) ([]Row, error) {
	columns := map[string][]string{}
	out := make([]Row, len(heard))
	for i, h := range heard {
		names, known := columns[h.table]
		if !known {
			found, err := s.reader.QueryContext(ctx, "SELECT name FROM pragma_table_info(?) ORDER BY cid", h.table)
			if err != nil {
				return nil, fmt.Errorf("columns of %s: %w", h.table, err)
			}
			if names, err = firstColumn(found); err != nil {
				return nil, fmt.Errorf("columns of %s: %w", h.table, err)
			}
			columns[h.table] = names
		}
		out[i] = Row{h.table, h.rowID, byName(names, h.before), byName(names, h.after)}
	}
	return out, nil
}

func byName(names []string, values []any) map[string]any {
	if values == nil {
		return nil
	}
	out := map[string]any{}
	for i, name := range names[:min(len(names), len(values))] {
		out[name] = values[i]
	}
	return out
}

// Revert puts rows back as they were before, the last first. A row that is not as it was left is
// bench.ErrConflict, and so is one that something written since rests on. The version of a row that
// is changed back goes on, so that no page takes it for what it showed.
func (t *Tx) Revert(rows []Row) error {
	for _, r := range slices.Backward(rows) {
		if err := t.revert(r); err != nil {
			return err
		}
		t.touch(r)
	}
	return nil
}

// touch notes the print that a row is of.
func (t *Tx) touch(r Row) {
	columns := map[string][]string{"reading": {"specimen_id"}, "defect": {"specimen_id"}, "specimen": {"id", "run_id"}}[r.Table]
	for _, of := range []map[string]any{r.Before, r.After} {
		for _, column := range columns {
			if id, there := of[column].(string); there {
				t.touched[id] = true
			}
		}
	}
}

func (t *Tx) revert(r Row) error {
	now, err := t.rowNow(r)
	if err != nil {
		return err
	}
	if !sameRow(now, r.After) {
		return fmt.Errorf("a %s was changed since; undo that first, or put it right by hand: %w", tableWord(r.Table), bench.ErrConflict)
	}
	columns, values := []string{}, []any{}
	for _, name := range sortedNames(r.Before) {
		value := r.Before[name]
		if version, counts := r.After[versionColumn].(int64); name == versionColumn && counts {
			value = version + 1
		}
		columns, values = append(columns, name), append(values, value)
	}
	var statement string
	switch {
	case r.Before == nil:
		statement, values = "DELETE FROM "+r.Table+" WHERE rowid = ?", []any{r.rowID}
	case r.After == nil:
		statement = "INSERT INTO " + r.Table + " (" + strings.Join(columns, ", ") + ", rowid) VALUES (?" + strings.Repeat(", ?", len(columns)) + ")"
		values = append(values, r.rowID)
	default:
		statement = "UPDATE " + r.Table + " SET " + strings.Join(columns, " = ?, ") + " = ? WHERE rowid = ?"
		values = append(values, r.rowID)
	}
	_, err = t.tx.ExecContext(t.ctx, statement, values...)
	var failure *sqlite.Error
	if errors.As(err, &failure) && failure.Code() == sqlite3.SQLITE_CONSTRAINT_FOREIGNKEY {
		return fmt.Errorf("something that was entered since rests on a %s of it; undo that first: %w", tableWord(r.Table), bench.ErrConflict)
	}
	return saved(tableWord(r.Table), err)
}

// versionColumn counts the changes of an entry.
const versionColumn = "version"

// rowNow is a row as it stands, nil where there is none.
func (t *Tx) rowNow(r Row) (map[string]any, error) {
	rows, err := t.tx.QueryContext(t.ctx, "SELECT * FROM "+r.Table+" WHERE rowid = ?", r.rowID)
	if err != nil {
		return nil, fmt.Errorf("look at a %s: %w", tableWord(r.Table), err)
	}
	defer func() { _ = rows.Close() }() // rows.Err below reports what matters
	names, err := rows.Columns()
	if err != nil || !rows.Next() {
		return nil, errors.Join(err, rows.Err())
	}
	values, into := make([]any, len(names)), make([]any, len(names))
	for i := range values {
		into[i] = &values[i]
	}
	if err := rows.Scan(into...); err != nil {
		return nil, fmt.Errorf("look at a %s: %w", tableWord(r.Table), err)
	}
	return byName(names, values), rows.Err()
}

// sameRow says that two rows hold the same, whichever version they are.
func sameRow(a, b map[string]any) bool {
	if len(a) != len(b) {
		return false
	}
	for name, v := range a {
		if name != versionColumn && fmt.Sprint(v) != fmt.Sprint(b[name]) {
			return false
		}
	}
	return true
}

func sortedNames(row map[string]any) []string {
	names := make([]string, 0, len(row))
	for name := range row {
		names = append(names, name)
	}
	slices.Sort(names)
	return names
}

// tableWord is a table in words.
func tableWord(table string) string { return strings.ReplaceAll(table, "_", " ") }

// pointing are the columns that lead from a row without a code of its own to one that has it, the
// nearest first.
var pointing = []struct{ column, table string }{
	{"specimen_id", "specimen"}, {"run_id", "run"}, {"series_id", "series"}, {"stress_series_id", "stress_series"}, {"photograph_id", "photograph"}, {"reference_id", "reference"},
	{"machine_id", "machine"}, {"bottle_id", "bottle"}, {"resin_id", "resin"}, {"piece_id", "piece"}, {"plate_id", "plate"}, {"review_id", "review"}, {"profile_id", "profile"},
	{"instrument_id", "instrument"}, {"bath_id", "bath"},
}

// CodesOf are the codes of what rows are, or are of, each once and in their order.
func (t *Tx) CodesOf(rows []Row) (codes []string, err error) {
	known := map[string]bool{}
	add := func(code string) {
		if code != "" && !known[code] {
			known[code], codes = true, append(codes, code)
		}
	}
	looked := map[string]bool{}
	for _, r := range rows {
		row := r.After
		if row == nil {
			row = r.Before
		}
		if code, own := row["code"].(string); own {
			add(code)
			continue
		}
		for _, p := range pointing {
			id, points := row[p.column].(string)
			if !points || id == "" {
				continue
			}
			if !looked[id] {
				looked[id] = true
				var code string
				if err := t.tx.QueryRowContext(t.ctx, "SELECT code FROM "+p.table+" WHERE id = ?", id).Scan(&code); err != nil && !errors.Is(err, sql.ErrNoRows) {
					return nil, fmt.Errorf("code of a %s: %w", tableWord(p.table), err)
				}
				add(code)
			}
			break
		}
	}
	return codes, nil
}

// CodeOfEntry is the code of an entry of a table, or of what it belongs to; empty where it has
// none, or is gone.
func (t *Tx) CodeOfEntry(table, id string) (string, error) {
	var there bool // an imported history may name any table, or none
	if slices.Contains(withoutRows, table) {
		return "", nil
	}
	if err := t.tx.QueryRowContext(t.ctx, "SELECT count(*) > 0 FROM pragma_table_info(?) WHERE name = 'id'", table).Scan(&there); err != nil || !there {
		return "", err
	}
	var rowID int64
	err := t.tx.QueryRowContext(t.ctx, `SELECT rowid FROM "`+table+`" WHERE id = ?`, id).Scan(&rowID)
	if errors.Is(err, sql.ErrNoRows) {
		return "", nil
	}
	if err != nil {
		return "", fmt.Errorf("code of a %s: %w", tableWord(table), err)
	}
	row, err := t.rowNow(Row{Table: table, rowID: rowID})
	if err != nil {
		return "", err
	}
	codes, err := t.CodesOf([]Row{{Table: table, After: row}})
	return strings.Join(codes, ", "), err
}
