using   System ;using A=B ;
namespace N{
  using C;
#pragma warning disable 1
 public class Hasty<A,B>:Station,IAlarm where A:class{
    int level=2,ebb ;static public int Top=2;
  [Old] int old;
	#region fast
  int P{get;set;}
int Q{get{return 1;}set{ ebb=value; }}
  int R=>2;
 [Fast]int[] All(int a,params string [ ] b){if(a>2){return null;}else return new int[]{1,2,};}
   void Run(){for(int i=0;i<3;i++)Warn(i);while(ebb>0)ebb--;
	do{ebb++;}while(ebb<2);
	try{ Open( ); }catch(Storm s){}finally{ Shut(); }
	switch(ebb){case 1:Warn();break;default:break;}
	Action r=()=>Warn( 2 ),s=delegate(int a){Warn();};
	level=ebb>2?1:!high?2:3;
	var t=new Gauge{Level=2,Name="a"};var u=level switch{1=>2,_=>3};
	lock(this){x[ 1 ]=(int) y;}
	if(a)//why
	  b();
      #endregion
	}
	}
enum Kind{A,B=2}
}
