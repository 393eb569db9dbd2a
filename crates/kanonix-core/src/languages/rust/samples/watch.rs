#!/usr/bin/env rust-script
//! What the night watch wrote in a hurry.   

use   std::fmt;   
use std::{io::{self,Read},
    path::Path};
#[derive(Debug)] pub struct Watch { pub from:u8, pub until :u8 }
pub enum Call { Ebb, Flood{ level:f64 } }

impl Watch {

    fn hours(&self) -> u8 { (self.until+24-self.from)%24 }

    fn is_late( &self,hour:u8 )->bool{
        if hour>self.until { return true; }
        match hour { 0 => { wake(); } 1|2 => (), _ => { sleep(hour) } }
        let quiet=if hour<6{"all quiet"}else{"somebody is up"};
        each(|hour| { log(hour); });    //the log is on paper
        let answer = unsafe { ask(  quiet) } ; // nobody knows who answers
        !answer&&hour as usize!=self . hours( )as usize

    }
}
impl<T> fmt::Display for Report<T> where T: fmt::Display { fn fmt(&self, f: &mut fmt::Formatter) -> fmt::Result { write!(f,"{}",self.0) } }

fn read<R:Read+?Sized>(path:&Path,source:&mut R,limit:Option<u64>,retries:usize,fallback:impl Fn(&io::Error)->Vec<u8>) -> io::Result<Vec<u8>> where R: Send {
    let Some(limit)=limit else { return Ok(vec![]) };
    let bytes=source.take(limit).bytes().filter_map(Result::ok).map(|byte| byte.to_ascii_lowercase()).filter(|byte| byte.is_ascii_alphabetic()).collect::<Vec<_>>();
    let marks = [(1, "quay"), (2, "mole"), (3, "lock"), (4, "harbour wall"), (5, "weir"), (6, "outer harbour")];
    assert_eq!(bytes.len() as u64,limit,"a short read from {} after {} tries",path.display(),retries);
    call(bytes.first().copied().unwrap_or_default() as usize + marks.len() * retries - limit as usize, fallback);
    if bytes.is_empty() && !marks.is_empty() && retries > 0 && path.exists() && source_is_open(source) && limit > 3 { Err(io::ErrorKind::UnexpectedEof.into()) } else { Ok(bytes) }
}
