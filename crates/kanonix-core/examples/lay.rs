use kanonix_core::*;
fn main(){ let f=std::env::args().nth(1).unwrap(); let t=std::fs::read_to_string(&f).unwrap(); let l=languages::of_file(&f).unwrap(); let mut st=l.style(); for a in std::env::args().skip(2){ let (k,v)=a.split_once('=').unwrap(); let (k,q)=k.split_once('.').unwrap_or((k,"")); st.set(k,q,v).unwrap(); }
 match mend(&t,l,&st,&text::LineSet::whole()) { Ok(m)=>{print!("{}",m.text); eprintln!("{:?}",m.outcome.faults)}, Err(e)=>{eprintln!("{e:?}"); let o=judge(&t,l,&st,&text::LineSet::whole()); print!("{}",text::apply(&t,&o.edits))} } }
