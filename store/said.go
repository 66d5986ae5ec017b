package store

import "exactflask/core/values/finding"

// What whoever runs the program is told of a data file, and of the place of it.
var (
	inUse        = finding.Declare("store.in-use", "path", "holder")
	inUseUnnamed = finding.Declare("store.in-use-unnamed", "path")
	newerSchema  = finding.Declare("store.newer", "path", "file", "known")
	otherSchema  = finding.Declare("store.other-schema", "path", "file", "known")
	logIsLost    = finding.Declare("store.log-lost", "path")
	isFull       = finding.Declare("store.full")
	isDamaged    = finding.Declare("store.damaged")
	isReadOnly   = finding.Declare("store.read-only")
	notWritable  = finding.Declare("store.not-writable", "path", "cause")
	noFolder     = finding.Declare("store.no-folder", "path")
	isThere      = finding.Declare("store.is-there", "path")
	isHalfway    = finding.Declare("store.halfway", "path", "beside")
	notRestored  = finding.Declare("store.not-restored", "path", "problem")
	backupWrong  = finding.Declare("store.backup-wrong", "path", "problem")
	noData       = finding.Declare("store.no-data", "cause")
	notOurs      = finding.Declare("store.not-ours")
	olderSchema  = finding.Declare("store.older", "file", "known")
	damagedPage  = finding.Declare("store.page", "text")
	loose        = finding.Declare("store.loose", "table", "parent")
	badNotebook  = finding.Declare("store.notebook", "notebook", "problem")
	noReading    = finding.Declare("store.notebook-unreadable", "notebook", "cause")
)
