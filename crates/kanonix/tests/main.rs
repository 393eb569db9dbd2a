//! The built program, on files in temporary folders with a real git. One program, so that it is
//! linked once.

mod actions;
mod agreement;
mod aligned;
mod bad_input;
mod canon;
mod commands;
mod csharp;
mod cut_short;
mod editing;
mod first_minute;
mod gate;
mod gdscript;
mod histories;
mod hostile;
mod java;
mod lists;
mod lsp;
mod lua;
mod markup;
mod merge;
mod no_working_tree;
mod nonsense;
mod pages;
mod powershell;
mod proposals;
mod reports;
mod ruby;
mod settle;
mod staged;
mod steps;
mod support;
mod touched_lines;
mod watch;
mod what_git_knows;
